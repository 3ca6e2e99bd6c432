import type { Recording } from '@/core/document/sound';
import { bringSounds } from '@/core/edit/soundEdits';
import { storableText } from '@/core/edit/wellFormed';
import { flacSamples } from '@/core/format/flac/streamInfo';
import type { Outcome } from '@/core/outcome';
import { done, refused } from '@/core/outcome';
import { contextNow, newId } from '@/features/project/editContext';
import { inView } from '@/features/project/hooks';
import { knowRecording } from '@/features/project/recordings';
import { useViewStore } from '@/features/project/viewStore';
import { postOriginal } from '@/features/sync/api';
import { toast } from '@/ui/toast';
import { decodeRecording } from '@/workers/client';

type Kept = { readonly original: string; readonly cutShort: boolean };

/**
 * Decodes a recording, counts it and has its file kept on the server, by `keep` where that is another's to do; the document knows nothing of it yet.
 * Rejects when stopped.
 */
export async function bringRecording(
  projectId: string,
  file: File,
  onProgress: (part: number) => void,
  stop: AbortSignal,
  keep: () => Promise<Kept> = () => postOriginal(projectId, 'recordings', file, stop),
): Promise<Outcome<Recording>> {
  const decoded = await decodeRecording(file, onProgress, stop);
  if (decoded.kind === 'refused') return refused(`${file.name}: ${decoded.reason}`);
  const { original, cutShort } = await keep();
  // A FLAC file says how many samples it holds; decoded, one that is cut short has fewer.
  const said = flacSamples(new Uint8Array(await file.slice(0, 64).arrayBuffer()));
  if (cutShort || (said !== null && decoded.samples < said))
    toast.warning(`${file.name} is cut short: it ends before what it says it holds. What is there was brought in.`, { duration: 12_000 });
  knowRecording(original, decoded);
  const { sampleRate, samples, channels } = decoded;
  return done({ original, fileName: storableText(file.name.slice(0, 255)), sampleRate, samples, channels: channels.length });
}

/** What bringing recordings into the open shot, or onto the reel, would come to now; null when none is open. */
export function previewSounds(recordings: readonly Recording[], startsAt: 'first' | 'now', owner: 'shot' | 'reel') {
  const view = inView();
  if (!view) return null;
  const { project, frame } = view;
  if (owner === 'shot') return bringSounds(contextNow(view), recordings, startsAt === 'now' ? frame : 0, project.rate);
  const { reelFrame } = useViewStore.getState();
  const context = { shot: null, firstNumber: project.firstFrameNumber, newId };
  return bringSounds(context, recordings, startsAt === 'now' ? reelFrame : 0, project.rate, project.reel.sounds);
}
