import '@/contracts/inPages';
import { z } from 'zod';
import { type AlphaKind, type LevelSource, sourcesSchema, type TakenFile, takenFileSchema, takenOriginalSchema } from '@/contracts/bringIn';
import { type DestinationChange, destinationsSchema } from '@/contracts/destinations';
import { outsideEncoderSchema } from '@/contracts/encoder';
import {
  acceptedSchema,
  changesSchema,
  documentSchema,
  type NewProject,
  type OpenedProject,
  openedSchema,
  refusalSchema,
  shelfSchema,
  staleSchema,
} from '@/contracts/project';
import { type NewReceipt, type Receipt, receiptSchema } from '@/contracts/receipt';
import { type RecipeChange, savedRecipesSchema } from '@/contracts/recipes';
import { keySettingsSchema } from '@/contracts/settings';
import type { Digest } from '@/core/document/model';
import { shareTexts } from '@/core/document/sharedTexts';
import type { OutsideEncoder } from '@/core/output/outsideFilm';
import { type SendingAnswer, type ServerPort, Unreachable } from '@/features/sync/ports';

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

/** Says that an answer is Lime Tick's own, and not that of something in between. */
const OWN_HEADER = 'lime-tick';

/** A server that has taken a request and says nothing for so long is as good as gone; what is sent may be large. */
const PATIENCE_MILLISECONDS = { asking: 60_000, sending: 300_000 } as const;

/** Asks the server. Throws Unreachable when it doesn't answer, or something else answers in its place. */
export async function ask(url: string, options: RequestInit = {}): Promise<Response> {
  const { signal, body } = options;
  let response: Response;
  try {
    response = await fetch(url, { ...options, signal: signal ?? AbortSignal.timeout(PATIENCE_MILLISECONDS[body ? 'sending' : 'asking']) });
  } catch (error) {
    if (signal?.aborted) throw error;
    throw new Unreachable('');
  }
  if (!response.headers.has(OWN_HEADER))
    throw new Unreachable(`Something else answered in the place of Lime Tick’s server (${response.status}).`);
  if (response.status === 503) throw new Unreachable((await refusalOf(response)).message);
  return response;
}

/** Why the server said no. */
export async function refusalOf(response: Response): Promise<Refused> {
  const body: unknown = await response.json().catch(() => null);
  const refusal = refusalSchema.safeParse(body);
  return new Refused(response.status, refusal.success ? refusal.data.error : `The server answered ${response.status}.`, body);
}

/** The checked body of an answer. Throws Refused when the server said no. */
export async function read<S extends z.ZodType>(response: Response, schema: S): Promise<z.output<S>> {
  if (!response.ok) throw await refusalOf(response);
  return schema.parse(await response.json());
}

/** Whether the server answers just now. */
export const serverAnswers = (): Promise<boolean> =>
  ask('/api/health', { cache: 'no-store' }).then(
    (response) => response.ok,
    () => false,
  );

const postJson = (url: string, body: unknown) =>
  ask(url, { method: 'POST', headers: { 'Content-Type': 'application/json' }, body: JSON.stringify(body) });

export async function fetchProject(projectId: string): Promise<OpenedProject> {
  const opened = await read(await ask(`/api/projects/${projectId}`, { cache: 'no-store' }), openedSchema);
  shareTexts(opened.project.shots);
  return opened;
}

export const fetchShelf = async () => (await read(await ask('/api/projects', { cache: 'no-store' }), shelfSchema)).projects;

const madeSchema = z.object({ id: z.string() });

/** Starts a project. Resolves with its id. */
export const createProject = async (wanted: NewProject) => read(await postJson('/api/projects', wanted), madeSchema);

/** Makes the demo unless it is there already. Resolves with its id. */
export const openDemo = async () => read(await postJson('/api/demo', {}), madeSchema);

/** Says the passphrase of a server that is reached from other machines. */
export const signIn = async (passphrase: string) =>
  read(await postJson('/api/session', { passphrase }), z.object({ signedIn: z.boolean() }));

/** Keeps a receipt with its project on the server. */
export const postReceipt = async (projectId: string, receipt: NewReceipt): Promise<Receipt> =>
  read(await postJson(`/api/projects/${projectId}/receipts`, receipt), receiptSchema);

/** A receipt whole, with the digests of its frames. */
export const fetchReceipt = async (projectId: string, receiptId: string): Promise<Receipt> =>
  read(await ask(`/api/projects/${projectId}/receipts/${receiptId}`, { cache: 'no-store' }), receiptSchema);

/** Takes a file in: it is kept as it is and its pictures are stored; the document knows nothing of it yet. */
export async function postFile(projectId: string, file: File, alpha: AlphaKind, stop: AbortSignal): Promise<TakenFile> {
  const query = new URLSearchParams({ name: file.name, alpha });
  return read(await ask(`/api/projects/${projectId}/bring-in?${query}`, { method: 'POST', body: file, signal: stop }), takenFileSchema);
}

/** Takes a recording or a clip in: it is kept as it is under the digest that is answered; the document knows nothing of it yet. */
export async function postOriginal(
  projectId: string,
  kind: 'recordings' | 'clips',
  file: File,
  stop: AbortSignal,
): Promise<z.output<typeof takenOriginalSchema>> {
  const query = new URLSearchParams({ name: file.name });
  const response = await ask(`/api/projects/${projectId}/${kind}?${query}`, { method: 'POST', body: file, signal: stop });
  return read(response, takenOriginalSchema);
}

/** A file as it was brought in; null when the server has none under that digest. */
export async function fetchOriginal(original: string, stop: AbortSignal): Promise<Blob | null> {
  const response = await ask(`/api/originals/${original}`, { signal: stop });
  if (response.status === 404) return null;
  if (!response.ok) throw new Refused(response.status, `The server answered ${response.status}.`);
  return response.blob();
}

/** Whether the server has a file under a digest; rejects when it doesn't answer. */
export async function hasOriginal(original: string): Promise<boolean> {
  const response = await ask(`/api/originals/${original}`, { headers: { Range: 'bytes=0-0' }, cache: 'no-store' });
  if (response.status === 404) return false;
  if (!response.ok) throw new Refused(response.status, `The server answered ${response.status}.`);
  return true;
}

/** Notes which files a level's pictures came from. */
export const postSources = async (projectId: string, sources: readonly LevelSource[]) =>
  read(await postJson(`/api/projects/${projectId}/sources`, { sources }), z.object({ noted: z.number() }));

/** Files a project's pictures came from. */
export const fetchSources = async (projectId: string) =>
  (await read(await ask(`/api/projects/${projectId}/sources`, { cache: 'no-store' }), sourcesSchema)).sources;

/** Keys that were given to commands. */
/** The outside encoder the server has, or why it has none. */
export const fetchOutsideEncoder = async (): Promise<OutsideEncoder> =>
  read(await ask('/api/encoder', { cache: 'no-store' }), outsideEncoderSchema);

export const fetchKeys = async () => read(await ask('/api/settings/keys', { cache: 'no-store' }), keySettingsSchema);

/** Keeps keys that were given to commands. */
export const putKeys = async (changed: Readonly<Record<string, readonly string[]>>) =>
  read(
    await ask('/api/settings/keys', { method: 'PUT', headers: { 'Content-Type': 'application/json' }, body: JSON.stringify(changed) }),
    keySettingsSchema,
  );

/** Recipes saved with a project, and for all. */
export const fetchRecipes = async (projectId: string) =>
  read(await ask(`/api/settings/recipes?project=${encodeURIComponent(projectId)}`, { cache: 'no-store' }), savedRecipesSchema);

/** Saves a recipe under a name, or takes it away. */
export const putRecipe = async (change: RecipeChange) =>
  read(
    await ask('/api/settings/recipes', { method: 'PUT', headers: { 'Content-Type': 'application/json' }, body: JSON.stringify(change) }),
    z.object({ saved: z.number() }),
  );

/** The destinations a person has made. */
export const fetchDestinations = async () => read(await ask('/api/settings/destinations', { cache: 'no-store' }), destinationsSchema);

/** Saves a destination, or takes it away, and gives all there are then. */
export const putDestination = async (change: DestinationChange) =>
  read(
    await ask('/api/settings/destinations', {
      method: 'PUT',
      headers: { 'Content-Type': 'application/json' },
      body: JSON.stringify(change),
    }),
    destinationsSchema,
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
  read(await ask('/api/pictures', { method: 'POST', body: pictureForm(pictures) }), storedSchema);

/** The server's part of the engine. */
export const server: ServerPort = {
  async send(projectId, sending, pictures): Promise<SendingAnswer> {
    const form = pictureForm(pictures);
    form.set('sending', JSON.stringify(sending));
    const response = await ask(`/api/projects/${projectId}/steps`, { method: 'POST', body: form });
    if (response.ok) return { kind: 'accepted', ...acceptedSchema.parse(await response.json()) };
    const { status, message: sentence, body } = await refusalOf(response);
    if (status === 404) return { kind: 'unknown', sentence };
    if (status >= 500) return { kind: 'failed', sentence };
    if (status !== 409) return { kind: 'refused', sentence };
    const stale = staleSchema.parse(body);
    return stale.kind === 'ahead' ? { kind: 'ahead', sentence } : { kind: 'stale', revision: stale.revision, changes: stale.changes };
  },
  async changesSince(projectId, revision) {
    const response = await ask(`/api/projects/${projectId}/steps?since=${revision}`, { cache: 'no-store' });
    if (response.ok) return { kind: 'changes', ...changesSchema.parse(await response.json()) };
    const { status, message: sentence } = await refusalOf(response);
    if (status === 404) return { kind: 'unknown', sentence };
    if (status === 409) return { kind: 'ahead', sentence };
    throw new Unreachable(sentence);
  },
  open: (projectId) => fetchProject(projectId),
};

/** The document as it was at a revision; null when it can't be worked out any more. */
export async function fetchDocumentAt(projectId: string, revision: number): Promise<z.output<typeof documentSchema> | null> {
  const response = await ask(`/api/projects/${projectId}?at=${revision}`, { cache: 'no-store' });
  return response.status === 410 ? null : read(response, documentSchema);
}
