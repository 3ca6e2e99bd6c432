import { createHash } from 'node:crypto';
import { ALL_FORMATS, BufferSource, Input } from 'mediabunny';
import { type Answer, answered, noSuchProject, unprocessable } from '@/server/service/answer';
import { getDatabase } from '@/server/store/database';
import { insertOriginal } from '@/server/store/originals';
import { projectExists } from '@/server/store/shelf';

/** Whether bytes are a file with sound in it. */
async function holdsSound(bytes: Uint8Array): Promise<boolean> {
  const input = new Input({ source: new BufferSource(bytes), formats: ALL_FORMATS });
  try {
    return (await input.getPrimaryAudioTrack()) !== null;
  } catch {
    // A file of a kind that can't be read has no sound that could be heard; more is not asked here.
    return false;
  } finally {
    input.dispose();
  }
}

/** Takes a recording in: its bytes are kept as they are. The document knows nothing of it yet. */
export async function takeRecording(projectId: string, fileName: string, bytes: Uint8Array): Promise<Answer<{ original: string }>> {
  const database = await getDatabase();
  if (!(await projectExists(database, projectId))) return noSuchProject(projectId);
  if (!(await holdsSound(bytes)))
    return unprocessable(`${fileName} is no recording that can be read: WAV, FLAC, MP3, Ogg, M4A or the like.`);
  const original = createHash('sha256').update(bytes).digest('hex');
  await insertOriginal(database, original, bytes);
  return answered({ original });
}
