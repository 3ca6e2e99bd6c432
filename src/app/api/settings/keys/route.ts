import { answering, readJson } from '@/app/api/respond';
import { keySettingsSchema } from '@/contracts/settings';
import { keepKeySettings, keySettings } from '@/server/service/settings';

export const dynamic = 'force-dynamic';

export const GET = answering(async () => Response.json(await keySettings()));

export const PUT = answering(async (request: Request) => {
  const body = await readJson(request, keySettingsSchema);
  return body.ok ? Response.json(await keepKeySettings(body.value)) : body.response;
});
