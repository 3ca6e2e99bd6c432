import { readJson } from '@/app/api/respond';
import { keySettingsSchema } from '@/contracts/settings';
import { keepKeySettings, keySettings } from '@/server/service/settings';

export const dynamic = 'force-dynamic';

export async function GET(): Promise<Response> {
  return Response.json(await keySettings());
}

export async function PUT(request: Request): Promise<Response> {
  const body = await readJson(request, keySettingsSchema);
  return body.ok ? Response.json(await keepKeySettings(body.value)) : body.response;
}
