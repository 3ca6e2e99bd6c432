import { answering, readJson, respond } from '@/app/api/respond';
import { backupSettingsSchema } from '@/contracts/backups';
import { backUpNow, settleBackups } from '@/server/service/storeState';

/** Makes a backup now, and reads it back. */
export const POST = answering(async () => respond(await backUpNow(), 201));

/** Settles how backups are made by themselves. */
export const PUT = answering(async (request: Request) => {
  const body = await readJson(request, backupSettingsSchema);
  return body.ok ? respond(await settleBackups(body.value)) : body.response;
});
