import { refuse } from '@/app/api/respond';
import { digestSchema } from '@/contracts/document';
import { picturePng } from '@/server/service/projects';

export async function GET(_request: Request, { params }: RouteContext<'/api/pictures/[digest]'>): Promise<Response> {
  const digest = digestSchema.safeParse((await params).digest);
  if (!digest.success) return refuse(400, `“${(await params).digest}” is no picture's digest: it must be 64 hexadecimal digits.`);
  const png = await picturePng(digest.data);
  if (!png) return refuse(404, `There is no picture ${digest.data.slice(0, 12)}… in the store.`);
  return new Response(png as Uint8Array<ArrayBuffer>, {
    headers: { 'Content-Type': 'image/png', 'Cache-Control': 'private, max-age=31536000, immutable' },
  });
}
