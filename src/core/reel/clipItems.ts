import { type Clip, type ClipReading, conversionOf, framesOfClip } from '@/core/document/clip';
import type { ClipItem, Project, ReelItemId } from '@/core/document/model';
import { newSound, type Recording } from '@/core/document/sound';
import type { Edit } from '@/core/edit/edit';
import type { Step } from '@/core/edit/step';
import { type Outcome, refused } from '@/core/outcome';
import { framesOfReel, placedById, placedItems } from '@/core/reel/reel';
import { itemWords, reelEdit } from '@/core/reel/reelEdit';
import type { NewId } from '@/core/reel/shotEdits';
import { fileTitle, titleOfFile } from '@/core/sheet/fileTitle';
import { plural } from '@/core/time/counts';
import { rateName } from '@/core/time/rate';
import { secondsText } from '@/core/time/seconds';
import { someOf } from '@/core/words';

/** Numbers of frames (from 0), the first few of them, counted from `first`. */
const numbered = (frames: readonly number[], first: number): string =>
  someOf(
    frames.map((frame) => String(frame + first)),
    6,
  );

/** The rate of a clip as it is told: `25 a second`, or that it has no constant one. */
export const clipRateWords = ({ timing }: Clip): string =>
  timing.kind === 'constant' ? `${rateName(timing.rate)} a second` : 'no constant rate: read by its times';

/** How a clip comes out in a film when it keeps its time: which of its frames are shown again, and which are passed over; counted from `first`. */
export function conversionWords(clip: Clip, rate: Project['rate'], first: number): string {
  const { repeated, passedOver } = conversionOf(clip, rate);
  const parts = [
    ...(repeated.length > 0 ? [`${numbered(repeated, first)} ${repeated.length === 1 ? 'is' : 'are'} shown more than once`] : []),
    ...(passedOver.length > 0 ? [`${numbered(passedOver, first)} ${passedOver.length === 1 ? 'is' : 'are'} passed over`] : []),
  ];
  return parts.length === 0 ? 'each of its frames is shown once' : `of its frames ${parts.join('; ')}`;
}

/** How long a clip is read in a way, as `100 frames, 4.167 s`. */
export function clipLengthWords(clip: Clip, way: ClipReading, rate: Project['rate']): string {
  const frames = framesOfClip(clip, way, rate);
  return `${plural(frames, 'frame')}, ${secondsText(frames, rate)} s`;
}

/** A clip to lay: how it is read, before which place of the reel (from 0), and its sound, to start with it as one of the reel's. */
export type ClipPlacement = {
  readonly clip: Clip;
  readonly way: ClipReading;
  readonly index: number;
  readonly recording: Recording | null;
};

/** Lays a clip whole on the reel, and its sound with it. */
export function layClip(project: Project, { clip, way, index, recording }: ClipPlacement, newId: NewId): Outcome<Edit> {
  const item: ClipItem = { id: newId(), kind: 'clip', finished: true, clip, way, trim: null };
  const startFrame = placedItems(project)[index]?.startFrame ?? framesOfReel(project);
  const lay: Step = { type: 'addItems', items: [{ item, index }] };
  const name = titleOfFile(clip.fileName);
  const what = `${name} on frame ${startFrame + project.firstFrameNumber} of the reel: ${clipLengthWords(clip, way, project.rate)}`;
  if (!recording) return reelEdit(project, [lay], what, { words: `Lay ${name} on the reel` });
  const taken = new Set(project.reel.sounds.map((sound) => sound.name));
  const sound = newSound(newId(), fileTitle(clip.fileName, 'Sound', taken), recording, startFrame);
  const hear: Step = { type: 'addSound', shotId: null, sound, index: project.reel.sounds.length };
  return reelEdit(project, [lay, hear], `${what}, with its sound`, { words: `Lay ${name} on the reel` });
}

/** Reads a clip on the reel the other way; it is shown whole then, since its frames are counted anew. */
export function readClipItem(project: Project, itemId: ReelItemId, way: ClipReading): Outcome<Edit> {
  const placed = placedById(project, itemId);
  if (placed?.item.kind !== 'clip') return refused('That clip is no longer on the reel.');
  const { clip, trim } = placed.item;
  if (placed.item.way === way) return refused(`${clip.fileName} is read so already.`);
  const how = way === 'readAs' ? 'read as the film’s' : `converted; ${conversionWords(clip, project.rate, project.firstFrameNumber)}`;
  const whole = trim === null ? '' : ', whole again';
  return reelEdit(
    project,
    [{ type: 'readClip', itemId, way, trim: null }],
    `${itemWords(placed)} ${how}: ${clipLengthWords(clip, way, project.rate)}${whole}`,
    { words: way === 'readAs' ? 'Read a clip as the film’s' : 'Convert a clip' },
  );
}
