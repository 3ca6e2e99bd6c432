import {
  type DrawingId,
  drawingById,
  type Level,
  type Project,
  type ReelItem,
  type Shot,
  type ShotItem,
  wholeShot,
} from '@/core/document/model';
import type { TimingChart } from '@/core/document/timingChart';
import { type Edit, editOf } from '@/core/edit/edit';
import { type Outcome, refused } from '@/core/outcome';
import { reelIndexOf } from '@/core/reel/reel';
import { anew, codeBetween, itemOf, itemsOfShot, type NewId } from '@/core/reel/shotEdits';
import { framesOfRuns, sliceRuns, tidyRuns } from '@/core/sheet/runs';
import { plural } from '@/core/time/counts';
import { drawingWords } from '@/core/words';

/*
 * A drawing that a split lays in both halves is a drawing of its own in each. The id of the copy says of which one it
 * is one, by what stands before its last `_`: so halves that are joined again have one drawing, with one number.
 */
const COPY = /^(.+)_[0-9a-z]{3}$/;
const LONGEST_ROOT = 36;

/** The drawing that one was split off from; its own id when it was not. */
export const rootOf = (id: DrawingId): DrawingId => COPY.exec(id)?.[1] ?? id;

/** An id for a copy of a drawing that no other drawing of the project has. */
function copyId(project: Project, id: DrawingId, newId: NewId): DrawingId {
  const root = rootOf(id);
  if (root.length > LONGEST_ROOT) return newId();
  const taken = new Set(project.shots.flatMap((shot) => shot.levels.flatMap((level) => level.drawings.map((drawing) => drawing.id))));
  for (let number = 1; number < 36 ** 3; number++) {
    const copy = `${root}_${number.toString(36).padStart(3, '0')}`;
    if (!taken.has(copy)) return copy;
  }
  return newId();
}

const drawingsOf = (chart: TimingChart): readonly DrawingId[] => [
  chart.fromDrawing,
  chart.toDrawing,
  ...chart.ticks.flatMap((tick) => tick.drawing ?? []),
];

/** Two halves of a level. */
type Halves = {
  readonly first: Level;
  readonly second: Level;
  /** Charts whose drawings were on both sides of the split: they stay whole with the first half. */
  readonly across: readonly TimingChart[];
};

/*
 * Each half keeps the drawings it exposes; one exposed in both is in both, with the same number and picture. Drawings
 * that are exposed nowhere stay with the first half, and so do charts that run over the split, with all their drawings,
 * so that nothing of them is lost. A still level is in both.
 */
function halvesOf(level: Level, atFrame: number): Halves {
  if (level.kind === 'still') return { first: level, second: level, across: [] };
  const end = Math.max(atFrame, framesOfRuns(level.exposures));
  const early = tidyRuns(sliceRuns(level.exposures, 0, atFrame));
  const late = tidyRuns(sliceRuns(level.exposures, atFrame, end));
  const shownEarly = new Set(early.map((run) => run.drawing));
  const shownLate = new Set(late.map((run) => run.drawing));
  const isWithin = (shown: ReadonlySet<DrawingId | null>) => (chart: TimingChart) => drawingsOf(chart).every((id) => shown.has(id));
  const inSecond = level.charts.filter(isWithin(shownLate));
  const inFirst = level.charts.filter((chart) => isWithin(shownEarly)(chart) || !inSecond.includes(chart));
  const held = new Set(inFirst.flatMap(drawingsOf));
  return {
    first: {
      ...level,
      exposures: early,
      drawings: level.drawings.filter(({ id }) => shownEarly.has(id) || held.has(id) || !shownLate.has(id)),
      charts: inFirst,
    },
    second: { ...level, exposures: late, drawings: level.drawings.filter(({ id }) => shownLate.has(id)), charts: inSecond },
    across: inFirst.filter((chart) => !isWithin(shownEarly)(chart) && drawingsOf(chart).some((id) => shownLate.has(id))),
  };
}

/** What an item of a shot that is split shows of each half: one item or two, which follow each other. */
function halvesOfItem(item: ShotItem, first: Shot, second: Shot, newId: NewId): readonly ShotItem[] {
  const atFrame = first.frames;
  if (item.trim === null) {
    const late = item.id === first.id ? wholeShot(second.id) : { ...wholeShot(second.id), id: newId() };
    return [item, late];
  }
  const { fromFrame, frames } = item.trim;
  const [early, late] = [Math.max(0, Math.min(frames, atFrame - fromFrame)), Math.min(frames, fromFrame + frames - atFrame)];
  const [one, other] = [
    itemOf(item, first, { fromFrame, frames: early }),
    itemOf(item, second, { fromFrame: Math.max(0, fromFrame - atFrame), frames: late }),
  ];
  if (late <= 0) return [one];
  return early === 0 ? [other] : [one, { ...other, id: newId() }];
}

/** A shot in two at a frame (from 0), which becomes the first of the second. A sound stays whole in the half it starts in, and goes on over the other. */
export function splitShot(project: Project, shot: Shot, atFrame: number, newId: NewId): Outcome<Edit> {
  if (atFrame < 1 || atFrame >= shot.frames) {
    return refused(
      `Shot ${shot.code} can't be split before its frame ${atFrame + project.firstFrameNumber}: choose a frame from its second to its last.`,
    );
  }
  const reelIndex = reelIndexOf(project, shot.id);
  const code = codeBetween(project, reelIndex < 0 ? project.reel.items.length : reelIndex + 1);
  const halves = shot.levels.map((level) => ({ level, ...halvesOf(level, atFrame) }));
  const first: Shot = {
    ...shot,
    frames: atFrame,
    levels: halves.map((half) => half.first),
    notes: shot.notes.filter((note) => note.frame < atFrame),
    sounds: shot.sounds.filter((sound) => sound.startFrame < atFrame),
  };
  const second: Shot = {
    ...shot,
    id: newId(),
    code,
    frames: shot.frames - atFrame,
    levels: halves.map((half) => {
      const kept = new Set(half.first.drawings.map((drawing) => drawing.id));
      return anew(half.second, newId, (id) => (kept.has(id) ? copyId(project, id, newId) : newId()));
    }),
    notes: shot.notes.filter((note) => note.frame >= atFrame).map((note) => ({ ...note, frame: note.frame - atFrame })),
    sounds: shot.sounds
      .filter((sound) => sound.startFrame >= atFrame)
      .map((sound) => ({ ...sound, startFrame: sound.startFrame - atFrame })),
  };
  const reel = project.reel.items.flatMap((item): readonly ReelItem[] =>
    item.kind === 'shot' && item.shotId === shot.id ? halvesOfItem(item, first, second, newId) : [item],
  );
  const withoutSecond = reel.filter((item) => item.kind !== 'shot' || item.shotId !== second.id);
  const place = project.shots.indexOf(shot);
  const number = (level: Level, id: DrawingId) => drawingById(level, id)?.number ?? '';
  const across = halves.flatMap(({ level, across: charts }) =>
    charts.map((chart) => `${drawingWords(level.name, number(level, chart.fromDrawing))} to ${number(level, chart.toDrawing)}`),
  );
  const stay = across.length === 1 ? `the chart of ${across[0]} stays` : `the charts of ${across.join(', ')} stay`;
  const charts = across.length === 0 ? '' : `; ${stay} whole in ${shot.code}`;
  return editOf(
    [
      { type: 'removeShot', shotId: shot.id },
      { type: 'addShot', shot: first, index: place, items: itemsOfShot(withoutSecond, first) },
      { type: 'addShot', shot: second, index: place + 1, items: itemsOfShot(reel, second) },
    ],
    `Split ${shot.code}`,
    `Split ${shot.code} before frame ${atFrame + project.firstFrameNumber}: ${shot.code} of ${plural(atFrame, 'frame')}, ${code} of ${plural(second.frames, 'frame')}${charts}`,
  );
}
