import type { ClipItem, Project, ReelItem, ReelItemId, ShotItem, Trim } from '@/core/document/model';
import type { Edit } from '@/core/edit/edit';
import type { Step } from '@/core/edit/step';
import { type Outcome, refused } from '@/core/outcome';
import { isWhole, type PlacedItem, placedById, type ReelSource } from '@/core/reel/reel';
import { reelEdit } from '@/core/reel/reelEdit';
import type { NewId } from '@/core/reel/shotEdits';
import { plural } from '@/core/time/counts';

/** An item that shows something of which frames can be left out. */
type Trimmed = PlacedItem & { readonly item: ShotItem | ClipItem; readonly source: ReelSource };

function placedSource(project: Project, itemId: ReelItemId): Outcome<Trimmed> {
  const placed = placedById(project, itemId);
  if (!placed) return refused('What was to be trimmed is no longer on the reel.');
  return placed.source === null ? refused('A gap has no frames to trim: set how long it is.') : { ok: true, value: placed as Trimmed };
}

/** What an item shows, as it begins a sentence: `Shot 020`, `The clip street`. */
const sourceWords = ({ name, shot }: ReelSource): string => (shot ? `Shot ${name}` : `The clip ${name}`);

/** The frames of its source that an item shows. */
export const trimOf = ({ fromFrame, startFrame, endFrame }: PlacedItem): Trim => ({ fromFrame, frames: endFrame - startFrame });

/**
 * Shows only `frames` frames of an item's shot or clip, from its frame `fromFrame` (from 0) on; what follows on the reel moves
 * along. All of them is the whole of it, which the item follows from then on. Refuses none, and frames there aren't.
 */
export function trimItem(project: Project, itemId: ReelItemId, { fromFrame, frames }: Trim): Outcome<Edit> {
  const found = placedSource(project, itemId);
  if (!found.ok) return found;
  const { source, item } = found.value;
  const first = project.firstFrameNumber;
  if (!Number.isInteger(frames) || frames < 1)
    return refused(
      `At least one frame of ${source.shot ? 'shot' : 'the clip'} ${source.name} has to stay: leave it out of the reel to show none.`,
    );
  if (!Number.isInteger(fromFrame) || fromFrame < 0 || fromFrame + frames > source.frames)
    return refused(
      `${sourceWords(source)} has frames ${first} to ${source.frames - 1 + first}: frames ${fromFrame + first} to ${fromFrame + frames - 1 + first} can’t be shown of it.`,
    );
  const isAll = fromFrame === 0 && frames === source.frames;
  if (isAll && item.trim === null) return refused(`${sourceWords(source)} is shown whole already.`);
  const step: Step = { type: 'trimItem', itemId, trim: isAll ? null : { fromFrame, frames } };
  const what = isAll
    ? `${source.name} whole, ${plural(frames, 'frame')}`
    : `${source.name}: frames ${fromFrame + first} to ${fromFrame + frames - 1 + first}, ${frames} of ${source.frames}`;
  return reelEdit(project, [step], what);
}

/** Shows an item's shot or clip whole, following it. */
export function showWhole(project: Project, itemId: ReelItemId): Outcome<Edit> {
  const found = placedSource(project, itemId);
  if (!found.ok) return found;
  const { source, item } = found.value;
  if (item.trim === null) return refused(`${sourceWords(source)} is shown whole already.`);
  return reelEdit(project, [{ type: 'trimItem', itemId, trim: null }], `${source.name} whole, ${plural(source.frames, 'frame')}`);
}

/** Shows frames of an item's shot or clip that are so many later (earlier, below 0); the item stays as long and where it is. */
export function slipItem(project: Project, itemId: ReelItemId, byFrames: number): Outcome<Edit> {
  const found = placedSource(project, itemId);
  if (!found.ok) return found;
  const { fromFrame, frames } = trimOf(found.value);
  if (isWhole(found.value))
    return refused(`${sourceWords(found.value.source)} is shown whole: there are no other frames to slip to. Trim it first.`);
  return trimItem(project, itemId, { fromFrame: fromFrame + byFrames, frames });
}

/** The two items one becomes when it is cut before `frames` of its own frames; `lateId` is the id of the second. */
function cutItem(item: ReelItem, trim: Trim, frames: number, lateId: ReelItemId): readonly [ReelItem, ReelItem] {
  if (item.kind === 'gap')
    return [
      { ...item, frames },
      { ...item, id: lateId, frames: trim.frames - frames },
    ];
  return [
    { ...item, trim: { fromFrame: trim.fromFrame, frames } },
    { ...item, id: lateId, trim: { fromFrame: trim.fromFrame + frames, frames: trim.frames - frames } },
  ];
}

/** Cuts an item in two before a frame of the reel (from 0): both show what was shown, and the shot stays one. */
export function splitItem(project: Project, itemId: ReelItemId, reelFrame: number, newId: NewId): Outcome<Edit> {
  const placed = placedById(project, itemId);
  if (!placed) return refused('What was to be split is no longer on the reel.');
  const at = reelFrame - placed.startFrame;
  const { frames } = trimOf(placed);
  const first = project.firstFrameNumber;
  const name = placed.source?.name ?? 'The gap';
  if (at < 1 || at >= frames)
    return refused(`${name} can’t be split before frame ${reelFrame + first}: choose a frame from its second to its last.`);
  const [early, late] = cutItem(placed.item, trimOf(placed), at, newId());
  const shortened: Step =
    early.kind === 'gap' ? { type: 'setGapLength', itemId, frames: at } : { type: 'trimItem', itemId, trim: early.trim };
  return reelEdit(
    project,
    [shortened, { type: 'addItems', items: [{ item: late, index: placed.index + 1 }] }],
    `Split ${name} before frame ${reelFrame + first} of the reel: ${plural(at, 'frame')} and ${frames - at}`,
    { words: `Split ${name} on the reel` },
  );
}
