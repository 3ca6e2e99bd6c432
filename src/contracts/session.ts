import { z } from 'zod';

const LONGEST_PASSPHRASE = 1024;

/** What is sent to sign in. */
export const passphraseSchema = z.object({
  passphrase: z.string().min(1, 'Write the passphrase.').max(LONGEST_PASSPHRASE, 'No passphrase is so long.'),
});
