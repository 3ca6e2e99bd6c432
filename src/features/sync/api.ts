import { z } from 'zod';
import { type AlphaKind, type Source, sourcesSchema, type TakenFile, takenFileSchema, takenRecordingSchema } from '@/contracts/bringIn';
import { acceptedSchema, type NewProject, openedSchema, refusalSchema, type Sending, shelfSchema, staleSchema } from '@/contracts/project';
import { type NewReceipt, type Receipt, receiptSchema } from '@/contracts/receipt';
import { keySettingsSchema } from '@/contracts/settings';
import type { Digest } from '@/core/sheet/document';

/** The server said no: a sentence, and the HTTP status. */
export class Refused extends Error {
  override readonly name = 'Refused';
  constructor(
    readonly status: number,
    sentence: string,
    readonly body: unknown = null,
  ) {
    super(sentence);
  }
}

async function read<S extends z.ZodType>(response: Response, schema: S): Promise<z.infer<S>> {
  const body: unknown = await response.json().catch(() => null);
  if (!response.ok) {
    const refusal = refusalSchema.safeParse(body);
    throw new Refused(response.status, refusal.success ? refusal.data.error : `The server answered ${response.status}.`, body);
  }
  return schema.parse(body);
}

const postJson = (url: string, body: unknown) =>
  fetch(url, { method: 'POST', headers: { 'Content-Type': 'application/json' }, body: JSON.stringify(body) });

export const fetchProject = async (projectId: string) =>
  read(await fetch(`/api/projects/${projectId}`, { cache: 'no-store' }), openedSchema);

export const fetchShelf = async () => (await read(await fetch('/api/projects', { cache: 'no-store' }), shelfSchema)).projects;

const madeSchema = z.object({ id: z.string() });

/** Starts a project; the answer is its id. */
export const createProject = async (wanted: NewProject) => read(await postJson('/api/projects', wanted), madeSchema);

/** Makes the demo unless it is there already; the answer is its id. */
export const openDemo = async () => read(await postJson('/api/demo', {}), madeSchema);

/** Keeps a receipt with its project on the server. */
export const postReceipt = async (projectId: string, receipt: NewReceipt): Promise<Receipt> =>
  read(await postJson(`/api/projects/${projectId}/receipts`, receipt), receiptSchema);

/** Takes a file in: it is kept as it is and its pictures are stored; the document knows nothing of it yet. */
export async function postFile(projectId: string, file: File, alpha: AlphaKind, stop: AbortSignal): Promise<TakenFile> {
  const query = new URLSearchParams({ name: file.name, alpha });
  return read(await fetch(`/api/projects/${projectId}/bring-in?${query}`, { method: 'POST', body: file, signal: stop }), takenFileSchema);
}

/** Takes a recording in: it is kept as it is under the digest that is answered; the document knows nothing of it yet. */
export async function postRecording(projectId: string, file: File, stop: AbortSignal): Promise<{ original: string }> {
  const query = new URLSearchParams({ name: file.name });
  const response = await fetch(`/api/projects/${projectId}/recordings?${query}`, { method: 'POST', body: file, signal: stop });
  return read(response, takenRecordingSchema);
}

/** A file as it was brought in; null when the server has none under that digest. */
export async function fetchOriginal(original: string, stop: AbortSignal): Promise<Blob | null> {
  const response = await fetch(`/api/originals/${original}`, { signal: stop });
  if (response.status === 404) return null;
  if (!response.ok) throw new Refused(response.status, `The server answered ${response.status}.`);
  return response.blob();
}

/** Notes which files a level's pictures came from. */
export const postSources = async (projectId: string, sources: readonly Source[]) =>
  read(await postJson(`/api/projects/${projectId}/sources`, { sources }), z.object({ noted: z.number() }));

/** Files a project's pictures came from. */
export const fetchSources = async (projectId: string) =>
  (await read(await fetch(`/api/projects/${projectId}/sources`, { cache: 'no-store' }), sourcesSchema)).sources;

/** Keys that were given to acts. */
export const fetchKeys = async () => read(await fetch('/api/settings/keys', { cache: 'no-store' }), keySettingsSchema);

/** Keeps keys that were given to acts. */
export const putKeys = async (changed: Readonly<Record<string, readonly string[]>>) =>
  read(
    await fetch('/api/settings/keys', { method: 'PUT', headers: { 'Content-Type': 'application/json' }, body: JSON.stringify(changed) }),
    keySettingsSchema,
  );

/** A form with pictures as the server takes them. */
function pictureForm(pictures: ReadonlyMap<Digest, Uint8Array>): FormData {
  const form = new FormData();
  for (const [digest, png] of pictures)
    form.set(`picture-${digest}`, new Blob([png as Uint8Array<ArrayBuffer>], { type: 'image/png' }), `${digest}.png`);
  return form;
}

const storedSchema = z.object({ stored: z.number() });

/** Stores pictures ahead of the steps that name them. */
export const postPictures = async (pictures: ReadonlyMap<Digest, Uint8Array>) =>
  read(await fetch('/api/pictures', { method: 'POST', body: pictureForm(pictures) }), storedSchema);

/** What the server said to a sending of steps. */
export type SendingAnswer =
  | { readonly kind: 'accepted'; readonly revision: number }
  | { readonly kind: 'stale'; readonly stale: z.infer<typeof staleSchema> }
  | { readonly kind: 'refused'; readonly sentence: string };

/** Sends steps with their pictures. Throws when the server can't be reached or fails. */
export async function postSteps(projectId: string, sending: Sending, pictures: ReadonlyMap<Digest, Uint8Array>): Promise<SendingAnswer> {
  const form = pictureForm(pictures);
  form.set('sending', JSON.stringify(sending));
  const response = await fetch(`/api/projects/${projectId}/steps`, { method: 'POST', body: form });
  try {
    return { kind: 'accepted', revision: (await read(response, acceptedSchema)).revision };
  } catch (error) {
    if (!(error instanceof Refused) || error.status >= 500) throw error;
    if (error.status === 409) return { kind: 'stale', stale: staleSchema.parse(error.body) };
    return { kind: 'refused', sentence: error.message };
  }
}
