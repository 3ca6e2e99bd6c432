import { type Act, actOf } from '@/core/edit/act';
import { done, type Outcome, refused } from '@/core/outcome';
import { type Drawing, type DrawingId, type Exposure, type Level, LONGEST_SHOT_NOTE, type Project, type Shot } from '@/core/sheet/document';
import { nextDrawingNumber } from '@/core/sheet/reading';
import { framesOfRuns, sliceRuns, tidyRuns } from '@/core/sheet/runs';
import { checkLength, plural } from '@/core/time/counts';

type NewId = () => string;

/** Shots are coded in tens, so that others fit between (common practice); one put between takes the middle, else a letter. */
export function codeBetween(project: Project, index: number): string {
  const taken = new Set(project.shots.map((shot) => shot.code));
  const written = (code: number) => String(code).padStart(3, '0');
  if (index >= project.shots.length) {
    const largest = Math.max(0, ...project.shots.map((shot) => Number.parseInt(shot.code, 10) || 0));
    return written((Math.floor(largest / 10) + 1) * 10);
  }
  const codeValue = (shot: Shot | undefined) => (shot === undefined ? 0 : /^\d+$/.test(shot.code) ? Number(shot.code) : null);
  const [before, after] = [codeValue(project.shots[index - 1]), codeValue(project.shots[index])];
  if (before !== null && after !== null) {
    const middle = Math.floor((before + after) / 2);
    if (middle > before && middle < after && !taken.has(written(middle))) return written(middle);
  }
  const stem = project.shots[index - 1]?.code ?? '000';
  for (let letter = 0; letter < 26; letter++) {
    const code = stem + String.fromCharCode(97 + letter);
    if (!taken.has(code)) return code;
  }
  return `${stem}-${project.shots.length + 1}`;
}

/** A level with new ids throughout: the same to look at, independent of the other. */
function anew(level: Level, newId: NewId): Level {
  const ids = new Map<DrawingId, DrawingId>(level.drawings.map((drawing) => [drawing.id, newId()]));
  const idOf = (id: DrawingId) => ids.get(id) as DrawingId;
  return {
    ...level,
    id: newId(),
    drawings: level.drawings.map((drawing) => ({ ...drawing, id: idOf(drawing.id) })),
    exposures: level.exposures.map((run) => ({ ...run, drawing: run.drawing === null ? null : idOf(run.drawing) })),
    charts: level.charts.map((chart) => ({
      ...chart,
      id: newId(),
      fromDrawing: idOf(chart.fromDrawing),
      toDrawing: idOf(chart.toDrawing),
      ticks: chart.ticks.map((tick) => ({ ...tick, drawing: tick.drawing === null ? null : idOf(tick.drawing) })),
    })),
  };
}

/** The shot once more after itself, independent of it, with a code between. */
export function duplicateShot(project: Project, shot: Shot, newId: NewId): Outcome<Act> {
  const index = project.shots.indexOf(shot) + 1;
  const code = codeBetween(project, index);
  const copy = {
    ...shot,
    id: newId(),
    code,
    levels: shot.levels.map((level) => anew(level, newId)),
    sounds: shot.sounds.map((sound) => ({ ...sound, id: newId() })),
  };
  return actOf(
    [{ type: 'addShot', shot: copy, index }],
    `Duplicate ${shot.code}`,
    `Duplicate ${shot.code} as ${code}, ${plural(shot.frames, 'frame')} longer in all`,
  );
}

/** Charts of a level whose drawings are all still on it; ticks of others wait for a drawing. */
function chartsAmong(level: Level, drawings: readonly Drawing[]): Level['charts'] {
  const here = new Set(drawings.map((drawing) => drawing.id));
  return level.charts
    .filter((chart) => here.has(chart.fromDrawing) && here.has(chart.toDrawing))
    .map((chart) => ({
      ...chart,
      ticks: chart.ticks.map((tick) => (tick.drawing === null || here.has(tick.drawing) ? tick : { ...tick, drawing: null })),
    }));
}

/*
 * Each half keeps the drawings it exposes; one exposed in both is in both, with the same number and picture.
 * Drawings that are exposed nowhere stay with the first half. A still level is in both.
 */
function halfOf(level: Level, fromFrame: number, toFrame: number, keepsUnexposed: boolean): Level {
  if (level.kind === 'still') return level;
  const exposures = tidyRuns(sliceRuns(level.exposures, fromFrame, toFrame));
  const shown = new Set(exposures.map((run) => run.drawing));
  const shownAnywhere = new Set(level.exposures.map((run) => run.drawing));
  const drawings = level.drawings.filter((drawing) => shown.has(drawing.id) || (keepsUnexposed && !shownAnywhere.has(drawing.id)));
  return { ...level, exposures, drawings, charts: chartsAmong(level, drawings) };
}

/** A shot in two at a frame (from 0), which becomes the first of the second. A sound stays whole in the half it starts in, and goes on over the other. */
export function splitShot(project: Project, shot: Shot, atFrame: number, newId: NewId): Outcome<Act> {
  if (atFrame < 1 || atFrame >= shot.frames) {
    return refused(
      `Shot ${shot.code} can't be split before its frame ${atFrame + project.startFrame}: choose a frame from its second to its last.`,
    );
  }
  const index = project.shots.indexOf(shot);
  const code = codeBetween(project, index + 1);
  const longest = Math.max(shot.frames, ...shot.levels.map((level) => framesOfRuns(level.exposures)));
  const first: Shot = {
    ...shot,
    frames: atFrame,
    levels: shot.levels.map((level) => halfOf(level, 0, atFrame, true)),
    notes: shot.notes.filter((note) => note.frame < atFrame),
    sounds: shot.sounds.filter((sound) => sound.startFrame < atFrame),
  };
  const second: Shot = {
    ...shot,
    id: newId(),
    code,
    frames: shot.frames - atFrame,
    levels: shot.levels.map((level) => anew(halfOf(level, atFrame, longest, false), newId)),
    notes: shot.notes.filter((note) => note.frame >= atFrame).map((note) => ({ ...note, frame: note.frame - atFrame })),
    sounds: shot.sounds
      .filter((sound) => sound.startFrame >= atFrame)
      .map((sound) => ({ ...sound, startFrame: sound.startFrame - atFrame })),
  };
  return actOf(
    [
      { type: 'removeShot', shotId: shot.id },
      { type: 'addShot', shot: first, index },
      { type: 'addShot', shot: second, index: index + 1 },
    ],
    `Split ${shot.code}`,
    `Split ${shot.code} before frame ${atFrame + project.startFrame}: ${shot.code} of ${plural(atFrame, 'frame')}, ${code} of ${plural(second.frames, 'frame')}`,
  );
}

/** A still level as one that shows its drawing for so many frames. */
function asAnimated(level: Level, frames: number): Level {
  if (level.kind !== 'still') return level;
  const [only] = level.drawings;
  return { ...level, kind: 'animated', exposures: only ? [{ drawing: only.id, frames }] : [] };
}

/** `second` after `first` on one level: the same number with the same picture is one drawing, other numbers come after those in use. */
function joinLevels(first: Level, second: Level, firstFrames: number, newId: NewId): Level {
  const drawings = [...first.drawings];
  const ids = new Map<DrawingId, DrawingId>();
  for (const drawing of second.drawings) {
    const same = first.drawings.find((own) => own.number === drawing.number && own.picture !== null && own.picture === drawing.picture);
    if (same) ids.set(drawing.id, same.id);
    else {
      const free = drawings.every((own) => own.number !== drawing.number);
      const landed = { ...drawing, id: newId(), number: free ? drawing.number : nextDrawingNumber({ ...first, drawings }) };
      drawings.push(landed);
      ids.set(drawing.id, landed.id);
    }
  }
  const idOf = (id: DrawingId) => ids.get(id) as DrawingId;
  const moved: Exposure[] = second.exposures.map((run) => ({ ...run, drawing: run.drawing === null ? null : idOf(run.drawing) }));
  const charts = second.charts.map((chart) => ({
    ...chart,
    id: newId(),
    fromDrawing: idOf(chart.fromDrawing),
    toDrawing: idOf(chart.toDrawing),
    ticks: chart.ticks.map((tick) => ({ ...tick, drawing: tick.drawing === null ? null : idOf(tick.drawing) })),
  }));
  const known = new Set(first.charts.map((chart) => `${chart.fromDrawing} ${chart.toDrawing}`));
  return {
    ...first,
    drawings,
    exposures: tidyRuns([...sliceRuns(first.exposures, 0, firstFrames), ...moved]),
    charts: [...first.charts, ...charts.filter((chart) => !known.has(`${chart.fromDrawing} ${chart.toDrawing}`))],
  };
}

const stillPicture = (level: Level) => level.drawings[0]?.picture ?? null;

/** A shot and the next one as one: levels of the same name go on, others are added; a still one that changes becomes animated. */
export function joinWithNext(project: Project, shot: Shot, newId: NewId): Outcome<Act> {
  const index = project.shots.indexOf(shot);
  const next = project.shots[index + 1];
  if (!next) return refused(`Shot ${shot.code} is the last one: there is none after it to join.`);
  const frames = shot.frames + next.frames;
  const length = checkLength(frames);
  if (!length.ok) return length;
  const note = [shot.note, next.note].filter(Boolean).join(' ');
  if (note.length > LONGEST_SHOT_NOTE)
    return refused(
      `The notes of ${shot.code} and ${next.code} are ${note.length} characters together; a shot’s note has at most ${LONGEST_SHOT_NOTE}. Shorten one of them, then join.`,
    );
  const waiting = new Set(next.levels);
  const joined = shot.levels.map((level): Level => {
    const partner = next.levels.find(
      (candidate) => waiting.has(candidate) && candidate.name === level.name && (candidate.kind === 'guide') === (level.kind === 'guide'),
    );
    if (!partner)
      return level.kind === 'still'
        ? asAnimated(level, shot.frames)
        : { ...level, exposures: tidyRuns(sliceRuns(level.exposures, 0, shot.frames)) };
    waiting.delete(partner);
    if (level.kind === 'still' && partner.kind === 'still' && stillPicture(level) === stillPicture(partner)) return level;
    return joinLevels(asAnimated(level, shot.frames), asAnimated(partner, next.frames), shot.frames, newId);
  });
  const added = [...waiting].map((level) => {
    const moving = anew(asAnimated(level, next.frames), newId);
    return { ...moving, exposures: tidyRuns([{ drawing: null, frames: shot.frames }, ...moving.exposures]) };
  });
  const whole: Shot = {
    ...shot,
    frames,
    note,
    levels: [...joined, ...added],
    notes: [
      ...shot.notes.filter((note) => note.frame < shot.frames),
      ...next.notes.map((note) => ({ ...note, frame: note.frame + shot.frames })),
    ],
    sounds: [...shot.sounds, ...next.sounds.map((sound) => ({ ...sound, startFrame: sound.startFrame + shot.frames }))],
  };
  return actOf(
    [
      { type: 'removeShot', shotId: next.id },
      { type: 'removeShot', shotId: shot.id },
      { type: 'addShot', shot: whole, index },
    ],
    `Join ${shot.code} and ${next.code}`,
    `Join ${next.code} to ${shot.code}: one shot of ${plural(frames, 'frame')}; the reel stays as long as it is`,
  );
}

/** A shot taken out of the project, with what goes named beforehand. */
export function removeShot(shot: Shot): Outcome<Act> {
  const drawings = shot.levels.filter((level) => level.kind !== 'guide').reduce((sum, level) => sum + level.drawings.length, 0);
  return done({
    step: { type: 'removeShot', shotId: shot.id },
    says: `Remove shot ${shot.code} with its ${plural(shot.frames, 'frame')} and ${plural(drawings, 'drawing')}`,
  });
}
