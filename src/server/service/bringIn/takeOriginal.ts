import { open } from 'node:fs/promises';
import { ALL_FORMATS, FilePathSource, Input } from 'mediabunny';
import { isCutShort, LOOKED_AT_BYTES } from '@/core/format/cutShort';
import { type Answer, answered, noSuchProject, unprocessable } from '@/server/service/answer';
import { type ReceivedFile, readReceived } from '@/server/service/bringIn/receive';
import { getDatabase } from '@/server/store/database';
import { insertOriginal } from '@/server/store/originals';
import { projectExists } from '@/server/store/shelf';

/** Whether a file has sound, or pictures, in it. */
async function holds(filePath: string, what: 'sound' | 'pictures'): Promise<boolean> {
  const input = new Input({ source: new FilePathSource(filePath), formats: ALL_FORMATS });
  try {
    return (await (what === 'sound' ? input.getPrimaryAudioTrack() : input.getPrimaryVideoTrack())) !== null;
  } catch {
    // A file of a kind that can't be read has nothing that could be heard or seen; more is not asked here.
    return false;
  } finally {
    input.dispose();
  }
}

async function endsEarly({ path, sizeBytes }: ReceivedFile): Promise<boolean> {
  const file = await open(path);
  try {
    const length = Math.min(sizeBytes, LOOKED_AT_BYTES);
    const part = async (position: number) => (await file.read(new Uint8Array(length), 0, length, position)).buffer;
    return isCutShort(await part(0), await part(sizeBytes - length), sizeBytes);
  } finally {
    await file.close();
  }
}

type TakenOriginal = { readonly original: string; readonly cutShort: boolean };

/** Keeps a file as it is. The document knows nothing of it yet. */
async function takeOriginal(
  projectId: string,
  file: ReceivedFile,
  what: 'sound' | 'pictures',
  otherwise: string,
): Promise<Answer<TakenOriginal>> {
  const database = await getDatabase();
  if (!(await projectExists(database, projectId))) return noSuchProject(projectId);
  if (!(await holds(file.path, what))) return unprocessable(`${file.name} ${otherwise}`);
  const cutShort = await endsEarly(file);
  await insertOriginal(database, file.digest, file.sizeBytes, readReceived(file));
  return answered({ original: file.digest, cutShort });
}

/** Takes a recording in: its bytes are kept as they are. */
export const takeRecording = (projectId: string, file: ReceivedFile): Promise<Answer<TakenOriginal>> =>
  takeOriginal(projectId, file, 'sound', 'is not a recording that can be read: WAV, FLAC, MP3, Ogg, M4A or the like.');

/** Takes a clip in: its bytes are kept as they are. */
export const takeClip = (projectId: string, file: ReceivedFile): Promise<Answer<TakenOriginal>> =>
  takeOriginal(projectId, file, 'pictures', 'is not a clip that can be read: MP4, MOV, WebM, Matroska or the like.');
