import type { BringInPlan, BroughtExposure } from '@/core/bring/bringIn';
import type { ClipReading } from '@/core/document/clip';
import { type Digest, type Drawing, type Exposure, type Level, newLevel } from '@/core/document/model';
import type { Edit } from '@/core/edit/edit';
import { type EditContext, editOf } from '@/core/edit/edit';
import type { Step } from '@/core/edit/step';
import { type Outcome, refused } from '@/core/outcome';
import { repeatPattern } from '@/core/sheet/repeats';
import { tidyRuns } from '@/core/sheet/runs';
import { LONGEST_SHOT_FRAMES, plural } from '@/core/time/counts';
import { framesInWords } from '@/core/time/frameWords';
import type { Rate } from '@/core/time/rate';

/** A frame of a clip: when it starts, in microseconds from the first; `repeats` when it shows what the frame before shows, and then has its picture. */
export type ClipFrame = { readonly startMicroseconds: number; readonly repeats: boolean; readonly picture: Digest };

/** A clip that was read: its frames in order, and when the last one ends. */
export type Clip = { readonly name: string; readonly frames: readonly ClipFrame[]; readonly endMicroseconds: number };

/** How a clip becomes a guide. */
export type TracingChoices = {
  /** Every frame of the clip is one of the film's, or the clip keeps its time. */
  readonly way: ClipReading;
  /** Repeats are held with the picture they repeat, so that stepping by drawing passes them over, or stand apart. */
  readonly repeats: 'held' | 'apart';
  readonly startFrame: number;
  readonly roomFrames: 'keepLength' | 'growShot';
  /** Also a level with an empty drawing for every picture of the clip. */
  readonly emptyDrawings: boolean;
  readonly levelName: string;
};

/** What tracing comes to: as bringing in, and the clip's frames (from 1) that no frame of the film shows. */
export type TracePlan = BringInPlan & { readonly lost: readonly number[] };

/*
 * A converted clip shows on frame k of the film the clip's frame that stands in the middle of it, at
 * (k + 1/2)·den/num seconds: times are rounded to whole microseconds in files, and the middle of a frame is
 * where such rounding changes nothing. It has as many frames as its time nearest comes to.
 */
function shownFrames(clip: Clip, way: TracingChoices['way'], rate: Rate): readonly number[] {
  if (way === 'readAs') return clip.frames.map((_frame, index) => index);
  const frames = Math.max(1, Math.round((clip.endMicroseconds * rate.num) / (1e6 * rate.den)));
  let source = 0;
  return Array.from({ length: Math.min(frames, LONGEST_SHOT_FRAMES) }, (_unused, frame) => {
    const microseconds = ((frame + 0.5) * 1e6 * rate.den) / rate.num;
    while ((clip.frames[source + 1]?.startMicroseconds ?? Number.POSITIVE_INFINITY) <= microseconds) source++;
    return source;
  });
}

/** The exposures a clip comes to: one for each picture, numbered by the clip's frame (from 1) it first shows on. */
function exposuresOfClip(
  clip: Clip,
  choices: TracingChoices,
  rate: Rate,
): { exposures: readonly BroughtExposure[]; lost: readonly number[] } {
  const shown = shownFrames(clip, choices.way, rate);
  const firstOf = (source: number) => {
    let first = source;
    while (choices.repeats === 'held' && first > 0 && clip.frames[first]?.repeats) first--;
    return first;
  };
  const exposures: BroughtExposure[] = [];
  const reached = new Set<number>();
  shown.forEach((source, frame) => {
    const first = firstOf(source);
    reached.add(first);
    const number = String(first + 1);
    const last = exposures.at(-1);
    const picture = clip.frames[first]?.picture;
    if (!picture) return;
    if (last?.number === number) exposures[exposures.length - 1] = { ...last, frames: last.frames + 1 };
    else
      exposures.push({
        number,
        picture,
        startFrame: choices.startFrame + frame,
        frames: 1,
        names: [`frame ${number} of ${clip.name}`],
        driftMilliseconds: null,
        isKept: false,
        isAgain: false,
      });
  });
  const lost = clip.frames.flatMap((_frame, index) => (firstOf(index) === index && !reached.has(index) ? [index + 1] : []));
  return { exposures, lost };
}

const blankBefore = (frames: number): readonly Exposure[] => (frames > 0 ? [{ drawing: null, frames }] : []);

/** What tracing over a clip comes to: a guide level with its pictures, and if wished a level of empty drawings to go with it. */
export function traceOver(context: EditContext, clip: Clip, choices: TracingChoices, rate: Rate): TracePlan {
  const { shot, newId, firstNumber } = context;
  const { startFrame } = choices;
  const { exposures, lost } = exposuresOfClip(clip, choices, rate);
  const frames = exposures.reduce((sum, exposure) => sum + exposure.frames, 0);
  const bringing = { exposures, drawings: exposures.length, frames, lost };
  if (exposures.length === 0) return { ...bringing, edit: refused('There is no picture in this clip.') };
  const guideOf = (name: string, kind: 'guide' | 'animated', pictures: boolean): Level => {
    const drawings = exposures.map(
      ({ number, picture }): Drawing => ({ id: newId(), number, role: 'inbetween', picture: pictures ? picture : null }),
    );
    const runs = exposures.map((exposure, index): Exposure => ({ drawing: drawings[index]?.id ?? null, frames: exposure.frames }));
    const media = pictures
      ? { fileName: clip.name, frames: clip.frames.length, lengthMicroseconds: Math.round(clip.endMicroseconds), way: choices.way }
      : null;
    return { ...newLevel(newId(), name, kind), drawings, exposures: tidyRuns([...blankBefore(startFrame), ...runs]), media };
  };
  const endFrame = startFrame + frames;
  const grows = choices.roomFrames === 'growShot' && endFrame > shot.frames;
  const add = (level: Level, index: number): Step => ({ type: 'addLevel', shotId: shot.id, level, index });
  const steps: Step[] = [
    ...(grows ? [{ type: 'setShotLength', shotId: shot.id, frames: endFrame } as const] : []),
    add(guideOf(choices.levelName, 'guide', true), shot.levels.length),
    ...(choices.emptyDrawings ? [add(guideOf(`${choices.levelName} drawn`.slice(0, 60), 'animated', false), shot.levels.length + 1)] : []),
  ];
  const empty = choices.emptyDrawings ? `, with ${plural(exposures.length, 'empty drawing')} to go with them` : '';
  const grown = grows ? `; shot ${shot.code} grows from ${shot.frames} to ${plural(endFrame, 'frame')}` : '';
  const says = `Guide ${choices.levelName}: ${plural(exposures.length, 'picture')} on ${framesInWords(startFrame, endFrame - 1, firstNumber)}${empty}${grown}`;
  return { ...bringing, edit: editOf(steps, `Trace over ${choices.levelName}`, says) };
}

/** A new level with an empty drawing for every picture of a guide, on the same frames and with the same numbers. */
export function emptyDrawingsFor({ shot, newId }: EditContext, guide: Level): Outcome<Edit> {
  if (guide.kind !== 'guide') return refused(`${guide.name} is not a guide.`);
  if (guide.exposures.length === 0) return refused(`${guide.name} shows nothing to draw after.`);
  const ids = new Map(guide.drawings.map((drawing) => [drawing.id, newId()]));
  const shown = new Set(guide.exposures.map((run) => run.drawing));
  const drawings = guide.drawings
    .filter((drawing) => shown.has(drawing.id))
    .map((drawing): Drawing => ({ id: ids.get(drawing.id) as string, number: drawing.number, role: 'inbetween', picture: null }));
  const exposures = guide.exposures.map(
    (run): Exposure => ({ drawing: run.drawing === null ? null : (ids.get(run.drawing) as string), frames: run.frames }),
  );
  const taken = new Set(shot.levels.map((level) => level.name));
  let name = `${guide.name} drawn`.slice(0, 60);
  for (let number = 2; taken.has(name); number++) name = `${guide.name} drawn ${number}`.slice(0, 60);
  const level: Level = { ...newLevel(newId(), name), drawings, exposures };
  const words = `${plural(drawings.length, 'empty drawing')} for ${guide.name}`;
  return editOf([{ type: 'addLevel', shotId: shot.id, level, index: shot.levels.length }], words, `${words}, on a new level ${name}`);
}

/** How often frames of a clip repeat the one before, and in which pattern, in words: `5 of 60 pictures repeat the one before: every 12th`. */
export function repeatWords(frames: readonly ClipFrame[]): string {
  const repeats = frames.map((frame) => frame.repeats);
  const count = repeats.filter(Boolean).length;
  if (count === 0) return `None of ${plural(frames.length, 'picture')} repeats the one before.`;
  return `${count} of ${plural(frames.length, 'picture')} ${count === 1 ? 'repeats' : 'repeat'} the one before${repeatPattern(repeats)}.`;
}

/** A clip's own rate, in words: frames a second when they all stand equally long, else from and to how long, in milliseconds. */
export function clipRateWords({ frames, endMicroseconds }: Clip): string {
  const lengths = frames.map((frame, index) => (frames[index + 1]?.startMicroseconds ?? endMicroseconds) - frame.startMicroseconds);
  const [shortest, longest] = [Math.min(...lengths), Math.max(...lengths)];
  const mean = endMicroseconds / frames.length;
  // Whole milliseconds, as some files count, are no variable rate.
  if (longest - shortest <= 2100) return `${Math.round(1e8 / mean) / 100} frames a second`;
  return `a rate that varies: its frames last ${Math.round(shortest / 1000)} to ${Math.round(longest / 1000)} ms`;
}
