import type { AlphaKind, TakenFile, TakenPicture } from '@/contracts/bringIn';
import { type BringInPlan, type BringingChoices, type BroughtPicture, bringIn } from '@/core/bring/bringIn';
import { inNaturalOrder, numberedName, numberFaults, numberRanges } from '@/core/bring/fileOrder';
import { type Digest, type Level, type LevelKind, levelById, type Project, type Shot, type Size, shotById } from '@/core/document/model';
import { sameSize, sizeText } from '@/core/document/size';
import type { Step } from '@/core/edit/step';
import { applyStep } from '@/core/edit/table';
import { mustBeDone } from '@/core/outcome';
import type { Anchor, PlacementMode } from '@/core/raster/placing';
import { itemAt } from '@/core/reel/reel';
import { reelEdit } from '@/core/reel/reelEdit';
import { addShotStep, codeBetween } from '@/core/reel/shotEdits';
import { plural } from '@/core/time/counts';
import { readTimes } from '@/core/time/heldTimes';
import { contextIn, contextNow, newId, take } from '@/features/project/editContext';
import { inView } from '@/features/project/hooks';
import { layAnew } from '@/features/project/layAnew';
import { useViewStore } from '@/features/project/viewStore';
import { postFile, postSources, Refused } from '@/features/sync/api';

/** A file that was read, with what it held. */
export type ReadFile = { readonly fileName: string; readonly taken: TakenFile };

/** A file that can't be brought in, and why. */
export type BadFile = { readonly fileName: string; readonly reason: string };

export type ReadResult = { readonly good: readonly ReadFile[]; readonly bad: readonly BadFile[] };

/** How many files are on their way at once. */
const AT_ONCE = 3;

/** Reads files, in the natural order of their names. Rejects when stopped; files that were taken by then stay stored and are swept away later. */
export async function readFiles(
  projectId: string,
  files: readonly File[],
  alpha: AlphaKind,
  stop: AbortSignal,
  onProgress: (done: number) => void,
): Promise<ReadResult> {
  const ordered = inNaturalOrder(files, (file) => file.name);
  const results: (ReadFile | BadFile)[] = [];
  let next = 0;
  let done = 0;
  const work = async () => {
    for (let index = next++; index < ordered.length; index = next++) {
      const file = ordered[index] as File;
      try {
        results[index] = { fileName: file.name, taken: await postFile(projectId, file, alpha, stop) };
      } catch (error) {
        stop.throwIfAborted();
        const reason = error instanceof Refused ? error.message : 'The server didn’t answer.';
        results[index] = { fileName: file.name, reason };
      }
      onProgress(++done);
    }
  };
  await Promise.all(Array.from({ length: AT_ONCE }, work));
  return { good: results.filter((each) => 'taken' in each), bad: results.filter((each) => 'reason' in each) };
}

/** What a person chooses while looking at what will come of it. */
export type Choices = {
  readonly order: 'asNamed' | 'reversed';
  readonly timing: 'each' | 'own';
  readonly frames: number;
  /** Times given by hand, as they were typed: of the pictures in the order of their files. */
  readonly timesText: string;
  readonly equal: 'each' | 'held' | 'shared';
  readonly numbers: 'counted' | 'ofFiles';
  readonly gaps: 'closed' | 'held';
  /** A new level of the open shot, the level of now, or a new shot on the reel with one level. */
  readonly onto: 'new' | 'level' | 'shot';
  readonly levelKind: LevelKind;
  readonly startsAt: 'first' | 'now';
  readonly grows: boolean;
  readonly laying: PlacementMode;
  readonly anchor: Anchor;
  readonly alpha: AlphaKind;
};

/** Whether every picture is a file of its own with a number, so that it can keep that. */
export const areNumbered = ({ good }: ReadResult): boolean =>
  good.length > 1 && good.every(({ fileName, taken }) => taken.pictures.length === 1 && numberedName(fileName).number !== null);

/** Numbers that are missing in the row of files. */
export const missingNumbers = (reading: ReadResult): readonly number[] =>
  areNumbered(reading) ? numberFaults(reading.good.map(({ fileName }) => fileName)).missing : [];

/** How many pictures are the same as one before. */
const equalPictures = (reading: ReadResult): number => {
  const pictures = picturesOf(reading).map(({ picture }) => picture);
  return pictures.length - new Set(pictures).size;
};

export const picturesOf = ({ good }: ReadResult): readonly TakenPicture[] => good.flatMap(({ taken }) => taken.pictures);

/** Choices to begin with: an animated file keeps its own times, a layered one is one frame a layer. */
export function firstChoices(reading: ReadResult, onReel: boolean): Choices {
  const pictures = picturesOf(reading);
  const hasTimes = pictures.some((picture) => picture.delayMilliseconds !== null);
  return {
    order: 'asNamed',
    timing: hasTimes ? 'own' : 'each',
    // Pictures that come to the reel were timed elsewhere, one a frame; drawings are on twos until told otherwise.
    frames: onReel && pictures.length > 1 ? 1 : 2,
    timesText: '',
    equal: 'each',
    // Where one is missing, the numbers say which: they are kept until told otherwise.
    numbers: missingNumbers(reading).length > 0 ? 'ofFiles' : 'counted',
    gaps: 'closed',
    onto: onReel ? 'shot' : 'new',
    levelKind: pictures.length === 1 && !onReel ? 'still' : 'animated',
    startsAt: 'first',
    grows: true,
    laying: 'fit',
    anchor: 'middle',
    alpha: 'straight',
  };
}

/** A name for the new level: what the files' names have in common, one that no level has. */
export function levelName(reading: ReadResult, shot: Shot): string {
  const first = reading.good[0]?.fileName ?? 'Pictures';
  const plain =
    numberedName(first)
      .before.replace(/\.[^.]*$/, '')
      .replace(/[\s._-]+$/, '')
      .trim() || 'Pictures';
  const base = `${plain.charAt(0).toUpperCase()}${plain.slice(1)}`.slice(0, 50);
  const taken = new Set(shot.levels.map((level) => level.name));
  if (!taken.has(base)) return base;
  let number = 2;
  while (taken.has(`${base} ${number}`)) number++;
  return `${base} ${number}`;
}

/** What is worth knowing about the files before they are brought in: gaps, double numbers, several sizes. */
export function remarks(reading: ReadResult, size: Size): readonly string[] {
  const { missing, twice } = numberFaults(reading.good.map((file) => file.fileName));
  const equal = equalPictures(reading);
  const sizes = new Map<string, number>();
  for (const picture of picturesOf(reading)) sizes.set(sizeText(picture), (sizes.get(sizeText(picture)) ?? 0) + 1);
  const others = [...sizes].filter(([text]) => text !== sizeText(size));
  const cut = reading.good.filter((file) => file.taken.cutShort).map((file) => file.fileName);
  return [
    ...(cut.length > 0
      ? [
          `Cut short, and read as far as ${cut.length === 1 ? 'it goes' : 'they go'}: ${cut.join(', ')}. Bring the whole ${cut.length === 1 ? 'file' : 'files'} in if there is one.`,
        ]
      : []),
    ...(missing.length > 0 ? [`Missing in the row: ${numberRanges(missing)}.`] : []),
    ...(equal > 0 ? [`${plural(equal, 'picture')} ${equal === 1 ? 'is' : 'are'} equal to one before: below is how they are drawn.`] : []),
    ...(twice.length > 0 ? [`There more than once: ${numberRanges(twice)}.`] : []),
    ...(others.length > 0
      ? [
          `Another size than the film’s ${sizeText(size)}: ${others.map(([text, count]) => `${plural(count, 'picture')} of ${text}`).join(', ')}.`,
        ]
      : []),
  ];
}

/** The pictures in the order of their files; a name for each, and its time, the one given by hand where there is one. */
function brought(
  reading: ReadResult,
  laid: ReadonlyMap<Digest, Digest | null>,
  { timing, timesText }: Pick<Choices, 'timing' | 'timesText'>,
): readonly BroughtPicture[] {
  const byHand = timing === 'own' ? (readTimes(timesText) ?? []) : [];
  return named(reading, laid).map((picture, index) => ({ ...picture, delayMilliseconds: byHand[index] ?? picture.delayMilliseconds }));
}

const named = (reading: ReadResult, laid: ReadonlyMap<Digest, Digest | null>): readonly BroughtPicture[] =>
  reading.good.flatMap(({ fileName, taken }) =>
    taken.pictures.flatMap(({ name, picture, delayMilliseconds }): BroughtPicture[] => {
      const digest = laid.has(picture) ? laid.get(picture) : picture;
      const called = taken.pictures.length === 1 ? fileName : taken.isLayered ? `${fileName}: ${name}` : name;
      const fileNumber = taken.pictures.length === 1 ? numberedName(fileName).number : null;
      return digest ? [{ name: called, picture: digest, delayMilliseconds, fileNumber }] : [];
    }),
  );

function coreChoices(choices: Choices, shot: Shot, level: Level | undefined, frame: number, name: string): BringingChoices {
  return {
    order: choices.order,
    timing: choices.timing === 'own' ? { kind: 'own' } : { kind: 'each', frames: choices.frames },
    equal: choices.equal,
    numbers: choices.numbers,
    gaps: choices.gaps,
    onto:
      choices.onto === 'level' && level
        ? { kind: 'level', level: levelById(shot, level.id) ?? level }
        : { kind: 'newLevel', levelKind: choices.levelKind, name },
    startFrame: choices.startsAt === 'now' ? frame : 0,
    roomFrames: choices.grows ? 'growShot' : 'keepLength',
  };
}

const NOTHING_LAID: ReadonlyMap<Digest, Digest | null> = new Map();

/** A new shot of one level on the reel, behind what is on now, made of the pictures. */
function previewShot(project: Project, reading: ReadResult, choices: Choices, laid: ReadonlyMap<Digest, Digest | null>): BringInPlan {
  const index = (itemAt(project, useViewStore.getState().reelFrame)?.index ?? project.reel.items.length - 1) + 1;
  const empty: Shot = { id: newId(), code: codeBetween(project, index), name: '', note: '', frames: 1, levels: [], notes: [], sounds: [] };
  const plan = bringIn(
    contextIn(project, empty),
    brought(reading, laid, choices),
    coreChoices({ ...choices, onto: 'new', startsAt: 'first', grows: true }, empty, undefined, 0, levelName(reading, empty)),
    project.rate,
  );
  if (!plan.edit.ok) return plan;
  const { step } = plan.edit.value;
  const before = mustBeDone(applyStep(project, addShotStep(project, empty, index)));
  const shot = shotById(mustBeDone(applyStep(before, step)), empty.id) ?? empty;
  const edit = reelEdit(
    project,
    [addShotStep(project, shot, index)],
    `Shot ${shot.code} of ${plural(shot.frames, 'frame')}: ${plan.edit.value.says}`,
    {
      words: `Shot ${shot.code} from pictures`,
    },
  );
  return { ...plan, edit };
}

/** What bringing in would come to now; null when no shot is open. */
export function previewBringing(reading: ReadResult, choices: Choices, laid = NOTHING_LAID): BringInPlan | null {
  const view = inView();
  if (!view) return null;
  const { shot, level, frame, project } = view;
  if (choices.onto === 'shot') return previewShot(project, reading, choices, laid);
  return bringIn(
    contextNow(view),
    brought(reading, laid, choices),
    coreChoices(choices, shot, level, frame, levelName(reading, shot)),
    project.rate,
  );
}

/** The level that a step of bringing in put pictures on. */
function levelIdIn(step: Step): string | undefined {
  if (step.type === 'together') return step.steps.map(levelIdIn).find((id) => id !== undefined);
  if (step.type === 'addShot') return step.shot.levels[0]?.id;
  return step.type === 'addLevel' ? step.level.id : step.type === 'addDrawing' ? step.levelId : undefined;
}

/**
 * Brings the files in: pictures of another size are laid on the film's, then one step makes drawings and
 * exposures. False when the step is refused. Rejects when stopped; the document is as it was then.
 */
export async function finishBringing(
  reading: ReadResult,
  choices: Choices,
  stop: AbortSignal,
  onProgress: (done: number, of: number) => void,
): Promise<boolean> {
  const view = inView();
  if (!view) return false;
  const { size, id } = view.project;
  const others = new Set(picturesOf(reading).flatMap((picture) => (sameSize(picture, size) ? [] : [picture.picture])));
  const laid = others.size > 0 ? await layAnew(others, size, choices.laying, stop, onProgress, choices.anchor) : NOTHING_LAID;
  const bringing = previewBringing(reading, choices, laid);
  if (!bringing || !take(bringing.edit, true) || !bringing.edit.ok) return false;
  const levelId = levelIdIn(bringing.edit.value.step);
  if (levelId)
    await postSources(
      id,
      reading.good.map(({ fileName, taken }) => ({ original: taken.original, fileName, levelId })),
    );
  return true;
}
