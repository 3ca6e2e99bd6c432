import { z } from 'zod';
import { readerOf } from '@/contracts/versions';

/** Keys a person has given to commands, by the command's name; a command that isn't named keeps the keys it came with. */
export const keySettingsSchema = z.record(
  z.string().regex(/^[a-z0-9-]{1,40}$/, 'A command’s name has 1 to 40 small letters, digits and -.'),
  z.array(z.string().min(1, 'A key has a name.').max(40, 'A key has at most 40 characters.')).max(4, 'A command has at most 4 keys.'),
);
export type KeySettings = z.infer<typeof keySettingsSchema>;

/** The keys as they are stored: in the first form they were the whole value. */
export const storedKeysReader = readerOf('The changed shortcuts', z.object({ version: z.number(), keys: keySettingsSchema }), [
  ({ version: _version, ...keys }) => ({ keys }),
]);
