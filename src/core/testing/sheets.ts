import type { Clip } from '@/core/document/clip';
import type { ClipItem, Drawing, Level, LevelKind, Project, Shot } from '@/core/document/model';
import { wholeShot } from '@/core/document/model';
import { newProject } from '@/core/document/newProject';
import { newSound, type Sound } from '@/core/document/sound';
import type { Edit, EditContext } from '@/core/edit/edit';
import type { RestRule, StepOf } from '@/core/edit/step';
import { applyStep } from '@/core/edit/table';
import { mustBeDone, type Outcome } from '@/core/outcome';
import type { Block } from '@/core/sheet/block';
import { notationOf, parseNotation, runsFromNotation } from '@/core/sheet/notation';
import { framesOfRuns, tidyRuns } from '@/core/sheet/runs';

/** A picture digest for tests: the letter over and over. */
export const pictureOf = (letter: string): string => letter.repeat(64);

type LevelOptions = {
  /** The level's id, which its drawings' ids begin with; its name unless told. */
  readonly id?: string;
  readonly kind?: LevelKind;
  readonly pictures?: string;
  readonly extra?: readonly string[];
  readonly opacityPercent?: number;
};

/**
 * A level from the sheet's notation: `levelOf('Sock', '1*2 2*2 .*3')`. Its drawings are the numbers named,
 * in order, and `extra` ones never exposed. `pictures` gives them pictures by letters, `-` for none.
 */
export function levelOf(name: string, notation: string, options: LevelOptions = {}): Level {
  const { id = name, kind = 'animated', pictures = '', extra = [], opacityPercent = 100 } = options;
  const numbers = [...new Set([...mustBeDone(parseNotation(notation)).flatMap((written) => written.number ?? []), ...extra])];
  const drawings: Drawing[] = numbers.map((number, index) => {
    const letter = pictures[index];
    return { id: `${id}-${number}`, number, role: 'inbetween', picture: letter && letter !== '-' ? pictureOf(letter) : null };
  });
  const exposures = kind === 'still' ? [] : tidyRuns(mustBeDone(runsFromNotation(notation, { name, drawings })));
  return {
    id,
    name,
    kind,
    visible: true,
    locked: false,
    opacityPercent,
    blend: 'normal',
    drawings,
    exposures,
    charts: [],
    media: null,
  };
}

/** A sound of so many samples at 48,000 a second, whole. */
export const soundOf = (name: string, startFrame: number, samples: number, sampleRate = 48_000): Sound =>
  newSound(name, name, { original: pictureOf('9'), fileName: `${name}.wav`, sampleRate, samples, channels: 1 }, startFrame);

/** A clip of so many frames, all equally long. */
export const clipOf = (frames: number, rate = { num: 25, den: 1 }, fileName = 'street.webm'): Clip => ({
  original: pictureOf('7'),
  fileName,
  size: { width: 320, height: 180 },
  frames,
  startMicroseconds: 0,
  timing: { kind: 'constant', rate },
});

/** A clip on the reel, whole. */
export const clipItem = (id: string, clip: Clip = clipOf(10), way: ClipItem['way'] = 'converted'): ClipItem => ({
  id,
  kind: 'clip',
  finished: true,
  clip,
  way,
  trim: null,
});

/** A shot of the given levels, as long as the longest unless told. */
export function shotOf(levels: readonly Level[], frames?: number, code = '010'): Shot {
  const longest = Math.max(1, ...levels.map((level) => framesOfRuns(level.exposures)));
  return { id: `shot-${code}`, code, name: '', note: '', frames: frames ?? longest, levels, notes: [], sounds: [] };
}

/** A project of the given shots, 24 a second, 1280 × 720, first frame 1. */
export const projectOf = (...shots: Shot[]): Project =>
  newProject({
    id: 'project',
    title: 'Test',
    rate: { num: 24, den: 1 },
    size: { width: 1280, height: 720 },
    firstFrameNumber: 1,
    shots,
  });

/** The column of a level in a project, as notation. */
export function columnIn(project: Project, levelId: string): string {
  const level = project.shots.flatMap((shot) => shot.levels).find((candidate) => candidate.id === levelId);
  if (!level) throw new Error(`There is no level ${levelId}.`);
  return notationOf(level);
}

/** Ids for tests: a, b, c … */
export function ids(): () => string {
  let next = 0;
  return () => `new${next++}`;
}

/** What edits work in on a shot, its first frame called 1. */
export const contextOn = (shot: Shot, following: RestRule = 'push'): EditContext => ({ shot, firstNumber: 1, following, newId: ids() });

/** The column of a level after an edit on a shot, as notation; the reason in brackets when it is refused. */
export function columnAfter(shot: Shot, edit: Outcome<Edit>, levelId = 'Sock'): string {
  return edit.ok ? columnIn(mustBeDone(applyStep(projectOf(shot), edit.value.step)), levelId) : `(${edit.reason})`;
}

/** A block of frames (inclusive, from 0) of some levels. */
export const blockOf = (fromFrame: number, toFrame: number, ...levelIds: readonly string[]): Block => ({
  fromFrame,
  toFrame,
  levelIds: levelIds.length === 0 ? ['Sock'] : levelIds,
});

/** Adds a shot whole at a place of the shots and one of the reel, the same unless told. */
export const addShotOf = (shot: Shot, index: number, reelIndex = index): StepOf<'addShot'> => ({
  type: 'addShot',
  shot,
  index,
  items: [{ item: wholeShot(shot.id), index: reelIndex }],
});
