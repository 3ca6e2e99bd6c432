import { framesOfDelays } from '@/core/bring/delays';
import { type Digest, type Drawing, type Exposure, type Level, type LevelKind, newLevel } from '@/core/document/model';
import { type Edit, type EditContext, editOf } from '@/core/edit/edit';
import type { Step } from '@/core/edit/step';
import { done, type Outcome, refused } from '@/core/outcome';
import { nextDrawingNumber } from '@/core/sheet/reading';
import { framesOfRuns, tidyRuns } from '@/core/sheet/runs';
import { checkLength, plural } from '@/core/time/counts';
import { framesInWords } from '@/core/time/frameWords';
import type { Rate } from '@/core/time/rate';

/**
 * A picture that is brought in: what it is called, its pixels' digest, how long it says it stays, and the number of its file in the
 * row it belongs to; each null where nothing says so.
 */
export type BroughtPicture = {
  readonly name: string;
  readonly picture: Digest;
  readonly delayMilliseconds: number | null;
  readonly fileNumber: number | null;
};

/** How pictures are brought in. */
export type BringingChoices = {
  readonly order: 'asNamed' | 'reversed';
  /** Every picture so many frames, or each its own time. */
  readonly timing: { readonly kind: 'each'; readonly frames: number } | { readonly kind: 'own' };
  /** Equal pictures: each a drawing of its own; in a row one drawing held; one drawing wherever it shows. */
  readonly equal: 'each' | 'held' | 'shared';
  /** Drawings are counted on, or have the numbers of their files. */
  readonly numbers: 'counted' | 'ofFiles';
  /** Where numbers are missing in the row: what follows closes up, or the picture before is held over them. */
  readonly gaps: 'closed' | 'held';
  /** A new level of a kind, or the level of now from the current frame on. */
  readonly onto:
    | { readonly kind: 'newLevel'; readonly levelKind: LevelKind; readonly name: string }
    | { readonly kind: 'level'; readonly level: Level };
  readonly startFrame: number;
  readonly roomFrames: 'keepLength' | 'growShot';
};

/** One exposure that bringing in will make: its drawing's number, frames, and where it comes from. */
export type BroughtExposure = {
  readonly number: string;
  readonly picture: Digest;
  readonly startFrame: number;
  readonly frames: number;
  readonly names: readonly string[];
  readonly driftMilliseconds: number | null;
  /** Its own time would have given it no frame. */
  readonly isKept: boolean;
  /** The drawing came up before and is shown again. */
  readonly isAgain: boolean;
};

/** What bringing in comes to, before it is done. */
export type BringInPlan = {
  readonly exposures: readonly BroughtExposure[];
  readonly drawings: number;
  readonly frames: number;
  readonly edit: Outcome<Edit>;
};

type TimedPicture = BroughtPicture & { readonly frames: number; readonly driftMilliseconds: number | null; readonly isKept: boolean };

/** How many numbers are missing between a picture's file and the one that comes next, whichever way they are ordered. */
const missingAfter = ({ fileNumber }: BroughtPicture, next: BroughtPicture | undefined): number =>
  fileNumber === null || next?.fileNumber == null ? 0 : Math.max(0, Math.abs(next.fileNumber - fileNumber) - 1);

function timed(pictures: readonly BroughtPicture[], choices: BringingChoices, rate: Rate): readonly TimedPicture[] {
  if (choices.timing.kind === 'each') {
    const { frames } = choices.timing;
    return pictures.map((picture, index) => {
      const missing = choices.gaps === 'held' ? missingAfter(picture, pictures[index + 1]) : 0;
      return { ...picture, frames: frames * (1 + missing), driftMilliseconds: null, isKept: false };
    });
  }
  const frameMilliseconds = Math.round((1000 * rate.den) / rate.num);
  const delays = framesOfDelays(
    pictures.map((picture) => picture.delayMilliseconds ?? frameMilliseconds),
    rate,
  );
  return pictures.map((picture, index) => {
    const { frames, driftMilliseconds, isKept } = delays[index] as (typeof delays)[number];
    return { ...picture, frames, driftMilliseconds, isKept };
  });
}

/** The exposures that pictures in order come to, with equal ones drawn together as chosen. */
function exposuresOfPictures(pictures: readonly TimedPicture[], choices: BringingChoices, firstNumber: number): readonly BroughtExposure[] {
  const numbers = new Map<Digest, string>();
  const taken = new Set<string>();
  const exposures: BroughtExposure[] = [];
  const own = (fileNumber: number | null) => (choices.numbers === 'ofFiles' && fileNumber !== null ? String(fileNumber) : null);
  /** The number of the file where it is free, else the next one that is. */
  const numberFor = (fileNumber: number | null): string => {
    const wanted = own(fileNumber);
    let number = wanted !== null && !taken.has(wanted) ? wanted : String(next++);
    while (taken.has(number)) number = String(next++);
    taken.add(number);
    return number;
  };
  let next = firstNumber;
  let startFrame = choices.startFrame;
  for (const { name, picture, frames, driftMilliseconds, isKept, fileNumber } of pictures) {
    const last = exposures.at(-1);
    if (last && choices.equal !== 'each' && last.picture === picture) {
      exposures[exposures.length - 1] = {
        ...last,
        frames: last.frames + frames,
        names: [...last.names, name],
        driftMilliseconds,
        isKept: last.isKept || isKept,
      };
    } else {
      const known = choices.equal === 'shared' ? numbers.get(picture) : undefined;
      const number = known ?? numberFor(fileNumber);
      numbers.set(picture, number);
      exposures.push({ number, picture, startFrame, frames, names: [name], driftMilliseconds, isKept, isAgain: known !== undefined });
    }
    startFrame += frames;
  }
  return exposures;
}

/** What bringing pictures in comes to: the exposures it makes, and the edit that makes them in one step. */
export function bringIn(context: EditContext, pictures: readonly BroughtPicture[], choices: BringingChoices, rate: Rate): BringInPlan {
  const { shot, newId, firstNumber } = context;
  const { onto, startFrame } = choices;
  const ordered = choices.order === 'reversed' ? pictures.toReversed() : pictures;
  const first = onto.kind === 'level' ? Number(nextDrawingNumber(onto.level)) : 1;
  const exposures = exposuresOfPictures(timed(ordered, choices, rate), choices, first);
  const frames = exposures.reduce((sum, exposure) => sum + exposure.frames, 0);
  const drawings = new Map<string, Drawing>();
  for (const { number, picture } of exposures)
    if (!drawings.has(number)) drawings.set(number, { id: newId(), number, role: 'inbetween', picture });
  const runs = exposures.map(({ number, frames: held }): Exposure => ({ drawing: drawings.get(number)?.id ?? null, frames: held }));
  const bringing = { exposures, drawings: drawings.size, frames };
  const refuse = (reason: string): BringInPlan => ({ ...bringing, edit: refused(reason) });
  if (exposures.length === 0) return refuse('There is no picture to bring in.');
  const known =
    onto.kind === 'level' ? exposures.find(({ number }) => onto.level.drawings.some((drawing) => drawing.number === number)) : undefined;
  if (known && onto.kind === 'level')
    return refuse(
      `${onto.level.name} has a drawing ${known.number} already: let the pictures be counted on, or bring them onto a new level.`,
    );
  const length = choices.timing.kind === 'each' ? checkLength(choices.timing.frames) : done(1);
  if (!length.ok) return refuse(length.reason);

  const endFrame = startFrame + frames;
  const growing: Step[] =
    choices.roomFrames === 'growShot' && endFrame > shot.frames ? [{ type: 'setShotLength', shotId: shot.id, frames: endFrame }] : [];
  const grown = growing.length > 0 ? `; shot ${shot.code} grows from ${shot.frames} to ${plural(endFrame, 'frame')}` : '';
  const words = `Bring in ${plural(exposures.length, 'picture')}`;
  const where = onto.kind === 'newLevel' ? `a new level ${onto.name}` : onto.level.name;
  const says = `${words} as ${plural(drawings.size, 'drawing')} on ${where}, ${framesInWords(startFrame, endFrame - 1, firstNumber)}${grown}`;
  if (onto.kind === 'newLevel') {
    const isStill = onto.levelKind === 'still';
    if (isStill && drawings.size > 1)
      return refuse('A still level has one drawing: bring in one picture, or choose another kind of level.');
    const blank: Exposure[] = startFrame > 0 ? [{ drawing: null, frames: startFrame }] : [];
    const level: Level = {
      ...newLevel(newId(), onto.name, onto.levelKind),
      drawings: [...drawings.values()],
      exposures: isStill ? [] : tidyRuns([...blank, ...runs]),
    };
    const add: Step = { type: 'addLevel', shotId: shot.id, level, index: isStill ? 0 : shot.levels.length };
    return { ...bringing, edit: editOf([...growing, add], words, says) };
  }
  const { level } = onto;
  if (level.kind === 'still') return refuse(`${level.name} is a still level and has one drawing: choose another level, or a new one.`);
  const at = { shotId: shot.id, levelId: level.id };
  const adds = [...drawings.values()].map(
    (drawing, index): Step => ({ type: 'addDrawing', ...at, drawing, index: level.drawings.length + index }),
  );
  const covered = Math.max(0, Math.min(framesOfRuns(level.exposures), endFrame) - startFrame);
  const place: Step = {
    type: 'replaceRuns',
    ...at,
    startFrame,
    removedFrames: context.following === 'push' ? 0 : covered,
    runs: tidyRuns(runs),
  };
  const pushes = context.following === 'push' && covered > 0 ? `, pushing what follows by ${frames}` : '';
  return { ...bringing, edit: editOf([...growing, ...adds, place], words, `${says}${pushes}`) };
}
