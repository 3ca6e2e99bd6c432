import { open } from 'node:fs/promises';
import { ALL_FORMATS, FilePathSource, Input } from 'mediabunny';
import { isCutShort, LOOKED_AT_BYTES } from '@/core/format/cutShort';
import { type Answer, answered, noSuchProject, unprocessable } from '@/server/service/answer';
import { type ReceivedFile, readReceived } from '@/server/service/bringIn/receive';
import { getDatabase } from '@/server/store/database';
import { insertOriginal } from '@/server/store/originals';
import { projectExists } from '@/server/store/shelf';

/** Whether a file has sound in it. */
async function holdsSound(filePath: string): Promise<boolean> {
  const input = new Input({ source: new FilePathSource(filePath), formats: ALL_FORMATS });
  try {
    return (await input.getPrimaryAudioTrack()) !== null;
  } catch {
    // A file of a kind that can't be read has no sound that could be heard; more is not asked here.
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

/** Takes a recording in: its bytes are kept as they are. The document knows nothing of it yet. */
export async function takeRecording(projectId: string, file: ReceivedFile): Promise<Answer<{ original: string; cutShort: boolean }>> {
  const database = await getDatabase();
  if (!(await projectExists(database, projectId))) return noSuchProject(projectId);
  if (!(await holdsSound(file.path)))
    return unprocessable(`${file.name} is not a recording that can be read: WAV, FLAC, MP3, Ogg, M4A or the like.`);
  const cutShort = await endsEarly(file);
  await insertOriginal(database, file.digest, file.sizeBytes, readReceived(file));
  return answered({ original: file.digest, cutShort });
}
