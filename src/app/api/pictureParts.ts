import { readBytes, refuse } from '@/app/api/respond';
import { digestSchema } from '@/contracts/document';
import { LARGEST_PICTURE_BYTES } from '@/core/document/size';
import type { SentPicture } from '@/server/service/sentPictures';

/** Room for the largest picture with what is sent along. */
const MOST_BYTES = LARGEST_PICTURE_BYTES + 16 * 1024 * 1024;

type PartResult =
  | { readonly ok: true; readonly form: FormData; readonly pictures: readonly SentPicture[] }
  | { readonly ok: false; readonly response: Response };

/** Reads a form with pictures as files `picture-<digest>`; parts named in `others` are left to whoever asks. */
export async function readPictureForm(request: Request, others: readonly string[], what: string): Promise<PartResult> {
  const bytes = await readBytes(request, MOST_BYTES);
  if (!bytes.ok) return bytes;
  let form: FormData;
  try {
    form = await new Response(bytes.value, { headers: { 'Content-Type': request.headers.get('content-type') ?? '' } }).formData();
  } catch {
    return { ok: false, response: refuse(400, what) };
  }
  const pictures: SentPicture[] = [];
  for (const [name, part] of form) {
    if (others.includes(name)) continue;
    const digest = digestSchema.safeParse(name.replace(/^picture-/, ''));
    if (!digest.success || typeof part === 'string')
      return { ok: false, response: refuse(400, `The part “${name}” is not understood: pictures are files named picture-<digest>.`) };
    if (part.size > LARGEST_PICTURE_BYTES)
      return {
        ok: false,
        response: refuse(413, `The picture has ${(part.size / 1024 / 1024).toFixed(1)} MiB; 64 MiB is the most that is taken.`),
      };
    pictures.push({ digest: digest.data, png: new Uint8Array(await part.arrayBuffer()) });
  }
  return { ok: true, form, pictures };
}
