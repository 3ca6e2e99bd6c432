import { type Level, type Project, type Shot, shotById } from '@/core/document/model';
import { done, type Outcome, refused } from '@/core/outcome';
import { convertedFor } from '@/core/output/converted';
import type { FormatOptions } from '@/core/output/format';
import type { Named } from '@/core/output/names';
import type { PictureOptions } from '@/core/output/pictures';
import { everySecondOf, sizedAndRated, type Taking, WHOLE_TAKING } from '@/core/output/taking';
import { firstPlaceOf, itemAt, placedShots } from '@/core/reel/reel';
import { type ReelSound, soundsOfReel, soundsOverShot } from '@/core/reel/sounds';
import { type RenderPlan, type RenderRequest, renderPlanOf } from '@/core/render/renderPlan';
import { leaves } from '@/core/render/stacks';
import { drawingShownAt } from '@/core/sheet/reading';
import type { Rate } from '@/core/time/rate';

/*
 * What leaves is one plan whatever it is made of. Levels that leave each by itself follow one another in it, shot after shot;
 * where one file is for each drawing, every picture is in it once. A film has the plan as it is.
 */

/** What leaves: its plan; what each of its frames is of; and of each the frames (from 0, of the shot or reel) on which it is seen. */
export type Leaving = {
  readonly plan: RenderPlan;
  readonly named: readonly Named[];
  readonly seenOn: readonly (readonly number[])[];
  /** What is heard over it: sounds, and the frame, at their rate, its first one is on; every frame of it lasts `stride` of those. Null where nothing is heard. */
  readonly heard: {
    readonly sounds: readonly ReelSound[];
    readonly firstFrame: number;
    readonly rate: Rate;
    readonly stride: number;
  } | null;
};

type Piece = { readonly plan: RenderPlan; readonly named: readonly Named[]; readonly seenOn: readonly number[] };
type Pictures = Omit<Leaving, 'heard'>;

const numbers = (plan: RenderPlan): readonly number[] => Array.from({ length: plan.frames }, (_, frame) => frame);

/** Frames of the reel or of one shot; of one level of a shot alone, where that is said. */
export type LeavingRequest = RenderRequest & { readonly levelId?: string | null };

/** Frames of the reel or of one shot, with everything on them. */
function wholePiece(project: Project, request: RenderRequest): Outcome<Piece> {
  const plan = renderPlanOf(project, request);
  if (!plan.ok) return plan;
  const first = project.firstFrameNumber;
  const { shotId, fromFrame } = request;
  const shot = shotId === null ? null : shotById(project, shotId);
  const place = shot ? firstPlaceOf(project, shot.id) : null;
  const named = numbers(plan.value).map((index): Named => {
    const frame = fromFrame + index;
    const reelFrame = shot ? (place ? place.startFrame - place.fromFrame + frame + first : null) : frame + first;
    const of = shot ? shot.code : (itemAt(project, frame)?.source?.name ?? 'gap');
    return { scope: shot?.code ?? null, shot: of, level: null, drawing: null, frame: frame + first, place: index, reelFrame };
  });
  return done({ plan: plan.value, named, seenOn: numbers(plan.value).map((index) => fromFrame + index) });
}

/** The plan of one level of a shot by itself, wholly seen and without the finish. */
function levelPlan(project: Project, shot: Shot, level: Level, fromFrame: number, toFrame: number): Outcome<RenderPlan> {
  const alone: Shot = { ...shot, levels: [{ ...level, visible: true, opacityPercent: 100, blend: 'normal' }] };
  const of: Project = { ...project, finish: [], shots: project.shots.map((each) => (each.id === shot.id ? alone : each)) };
  return renderPlanOf(of, { shotId: shot.id, fromFrame, toFrame, withBackground: true });
}

/** The level that is asked for alone; null where all of them are. Refused where it is gone or never leaves. */
function levelAsked(project: Project, { shotId, levelId }: LeavingRequest): Outcome<{ shot: Shot; level: Level } | null> {
  if (levelId == null) return done(null);
  const shot = shotId === null ? undefined : shotById(project, shotId);
  const level = shot?.levels.find(({ id }) => id === levelId);
  if (!shot || !level) return refused('The level that was asked for is not there any more: choose another one.');
  return level.kind === 'guide' ? refused(`${level.name} is a guide, which never leaves.`) : done({ shot, level });
}

function levelPiece(project: Project, shot: Shot, level: Level, fromFrame: number, toFrame: number): Outcome<Piece> {
  const plan = levelPlan(project, shot, level, fromFrame, toFrame);
  if (!plan.ok) return plan;
  const first = project.firstFrameNumber;
  const place = firstPlaceOf(project, shot.id);
  const named = numbers(plan.value).map((index): Named => {
    const frame = fromFrame + index;
    return {
      scope: shot.code,
      shot: shot.code,
      level: level.name,
      drawing: drawingShownAt(level, frame)?.number ?? null,
      frame: frame + first,
      place: index,
      reelFrame: place ? place.startFrame - place.fromFrame + frame + first : null,
    };
  });
  return done({ plan: plan.value, named, seenOn: numbers(plan.value).map((index) => fromFrame + index) });
}

/** Every level that leaves, each by itself: of one shot, or of every shot on the reel. */
function levelPieces(project: Project, { shotId, fromFrame, toFrame, withBackground }: RenderRequest): Outcome<readonly Piece[]> {
  const one = shotId === null ? null : shotById(project, shotId);
  const shots = one ? [one] : [...new Set(placedShots(project).map(({ shot }) => shot))];
  const pieces: Piece[] = [];
  for (const shot of shots) {
    for (const level of shot.levels) {
      if (!leaves(level, withBackground)) continue;
      const piece = one ? levelPiece(project, shot, level, fromFrame, toFrame) : levelPiece(project, shot, level, 0, shot.frames - 1);
      if (!piece.ok) return piece;
      pieces.push(piece.value);
    }
  }
  return pieces.length === 0 ? refused('No level is seen that could leave by itself.') : done(pieces);
}

/** The pictures of a piece, each once, in the order they are first seen; frames that show nothing are none. */
function eachOnce({ plan, named, seenOn }: Piece): Pictures {
  const seen = new Map<number, number[]>();
  for (const { stack, startFrame, frames } of plan.runs) {
    if (plan.stacks[stack]?.layers.length === 0) continue;
    const on = seen.get(stack) ?? [];
    for (let frame = startFrame; frame < startFrame + frames; frame++) on.push(frame);
    seen.set(stack, on);
  }
  const once = [...seen];
  return {
    plan: { ...plan, frames: once.length, runs: once.map(([stack], index) => ({ stack, startFrame: index, frames: 1 })) },
    named: once.map(([, on], index) => ({ ...(named[on[0] as number] as Named), place: index })),
    seenOn: once.map(([, on]) => on.map((frame) => seenOn[frame] as number)),
  };
}

const asItIs = ({ plan, named, seenOn }: Piece): Pictures => ({ plan, named, seenOn: seenOn.map((frame) => [frame]) });

/** Every second frame of a piece. */
function thinned({ plan, named, seenOn }: Piece): Piece {
  const isTaken = (_: unknown, frame: number) => frame % 2 === 0;
  const taken = named.filter(isTaken).map((each, place) => ({ ...each, place }));
  return { plan: everySecondOf(plan), named: taken, seenOn: seenOn.filter(isTaken) };
}

/** Pieces one after another, as one plan. */
function together(pieces: readonly Pictures[]): Pictures {
  const [first] = pieces;
  if (!first || pieces.length === 1) return first as Pictures;
  const stacks: RenderPlan['stacks'][number][] = [];
  const runs: RenderPlan['runs'][number][] = [];
  let frames = 0;
  for (const { plan } of pieces) {
    for (const run of plan.runs) runs.push({ ...run, stack: run.stack + stacks.length, startFrame: run.startFrame + frames });
    stacks.push(...plan.stacks);
    frames += plan.frames;
  }
  return {
    plan: { ...first.plan, frames, stacks, runs },
    named: pieces.flatMap(({ named }) => named),
    seenOn: pieces.flatMap(({ seenOn }) => seenOn),
  };
}

/** The sounds that are heard over what is asked for. */
export function soundsOver(project: Project, { shotId, fromFrame, toFrame }: RenderRequest): readonly ReelSound[] {
  const all = shotId === null ? soundsOfReel(project) : soundsOverShot(project, shotId);
  return all.filter(({ sound, startFrame, endFrame }) => !sound.muted && startFrame <= toFrame && endFrame > fromFrame);
}

/** What is heard over a film; read as another rate it lasts another time, which no sound fits. */
function heardOver(project: Project, request: RenderRequest, { rate, everySecond }: Taking): Leaving['heard'] {
  const sounds = soundsOver(project, request);
  if (rate?.way === 'readAs' || sounds.length === 0) return null;
  return { sounds, firstFrame: request.fromFrame, rate: project.rate, stride: everySecond ? 2 : 1 };
}

function picturesOf(project: Project, request: LeavingRequest, options: PictureOptions, taking: Taking): Outcome<Pictures> {
  const asked = levelAsked(project, request);
  if (!asked.ok) return asked;
  const one = asked.value;
  const whole = one
    ? piecesOf(levelPiece(project, one.shot, one.level, request.fromFrame, request.toFrame))
    : options.split === 'levels'
      ? levelPieces(project, request)
      : piecesOf(wholePiece(project, request));
  if (!whole.ok) return whole;
  const pieces = taking.everySecond ? whole.value.map(thinned) : whole.value;
  const pictures = together(pieces.map(options.each === 'drawing' ? eachOnce : asItIs));
  if (pictures.plan.frames === 0) return refused('Nothing is drawn on these frames: there is no picture to hand over.');
  // Frames of levels and drawings apart are no frames of a shot or of the reel any more: they are counted from 1.
  const isApart = options.split === 'levels' || options.each === 'drawing';
  return done(isApart ? { ...pictures, plan: { ...pictures.plan, firstNumber: 1 } } : pictures);
}

/** The plan of the frames that are asked for, of everything on them or of one level alone, whatever of it is taken. */
export function plainPlanOf(project: Project, request: LeavingRequest): Outcome<RenderPlan> {
  const level = levelAsked(project, request);
  if (!level.ok) return level;
  if (!level.value) return renderPlanOf(project, request);
  return levelPlan(project, level.value.shot, level.value.level, request.fromFrame, request.toFrame);
}

const piecesOf = (piece: Outcome<Piece>): Outcome<readonly Piece[]> => (piece.ok ? done([piece.value]) : piece);

/** What leaves by a request with these options, as much of it as is taken; refuses what can't be handed over, and where nothing is left of it. */
export function leavingOf(
  asked: Project,
  request: LeavingRequest,
  options: FormatOptions,
  taking: Taking = WHOLE_TAKING,
): Outcome<Leaving> {
  const converted = convertedFor(asked, request, taking);
  if (!converted.ok) return converted;
  const { project } = converted.value;
  const wanted: LeavingRequest = { ...converted.value.request, levelId: request.levelId ?? null };
  if (options.kind === 'pictures') {
    const pictures = picturesOf(project, wanted, options, taking);
    return pictures.ok ? done({ ...pictures.value, plan: sizedAndRated(pictures.value.plan, taking), heard: null }) : pictures;
  }
  const plan = plainPlanOf(project, wanted);
  if (!plan.ok) return plan;
  const frames = taking.everySecond ? everySecondOf(plan.value) : plan.value;
  return done({
    plan: sizedAndRated(frames, taking),
    named: [],
    seenOn: [],
    heard: wanted.levelId !== null ? null : heardOver(project, wanted, taking),
  });
}
