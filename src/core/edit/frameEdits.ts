import type { Exposure, Level, LevelId, SheetNote, Shot } from '@/core/document/model';
import { levelById } from '@/core/document/model';
import { type Sound, soundFrom } from '@/core/document/sound';
import type { Edit, EditContext } from '@/core/edit/edit';
import type { Step } from '@/core/edit/step';
import { tellingEdit } from '@/core/edit/telling';
import { type Outcome, refused } from '@/core/outcome';
import { framesOfRuns, runAt, sliceRuns, tidyRuns } from '@/core/sheet/runs';
import { checkLength, plural } from '@/core/time/counts';
import { framesInWords } from '@/core/time/frameWords';
import type { Rate } from '@/core/time/rate';

/** Whose frames are meant: the whole shot with its notes, or some levels. */
export type FrameScope = 'shot' | readonly LevelId[];

/** What inserted frames are: blank, or the drawing before held longer. */
export type InsertedAs = 'blank' | 'hold';

const levelsIn = (shot: Shot, scope: FrameScope): readonly Level[] =>
  (scope === 'shot' ? shot.levels : scope.flatMap((id) => levelById(shot, id) ?? [])).filter((level) => level.kind !== 'still');

const scopeWords = (shot: Shot, scope: FrameScope) =>
  scope === 'shot'
    ? `in the whole shot`
    : `on ${levelsIn(shot, scope)
        .map((level) => level.name)
        .join(', ')}`;

/*
 * Inside an exposure frames always make it longer: split in two it would be two exposures of one drawing,
 * which is one exposure. Between two exposures they are blank, or lengthen the one before (at the very
 * top, the first one).
 */
function insertion(level: Level, atFrame: number, frames: number, as: InsertedAs): Exposure | null {
  const total = framesOfRuns(level.exposures);
  // Past the last exposure all is blank already; right after it, it can be held.
  if (total === 0 || atFrame > total || (atFrame === total && as === 'blank')) return null;
  const here = runAt(level.exposures, atFrame);
  const before = atFrame === 0 ? here : runAt(level.exposures, atFrame - 1);
  const inside = here !== undefined && here.startFrame < atFrame;
  return { drawing: inside || as === 'hold' ? (before?.drawing ?? null) : null, frames };
}

function lengthStep(shot: Shot, follows: boolean, frames: number): readonly Step[] {
  return follows && frames !== shot.frames ? [{ type: 'setShotLength', shotId: shot.id, frames }] : [];
}

function shotLengthWords(shot: Shot, follows: boolean, frames: number): string {
  return follows ? `the shot goes from ${shot.frames} to ${plural(frames, 'frame')}` : `the shot stays ${plural(shot.frames, 'frame')}`;
}

function notesStep(shot: Shot, notes: readonly SheetNote[]): readonly Step[] {
  return shot.notes.some((note, index) => note !== notes[index]) || shot.notes.length !== notes.length
    ? [{ type: 'setNotes', shotId: shot.id, notes }]
    : [];
}

/** Sounds on their new frames; null takes one away. */
const soundsSteps = (shot: Shot, move: (sound: Sound) => Sound | null): readonly Step[] =>
  shot.sounds.flatMap((sound): Step[] => {
    const moved = move(sound);
    if (moved === null) return [{ type: 'removeSound', shotId: shot.id, soundId: sound.id }];
    const { startFrame, fromSample, samples } = moved;
    if (startFrame === sound.startFrame && samples === sound.samples) return [];
    const change = samples === sound.samples ? { startFrame } : { startFrame, fromSample, samples };
    return [{ type: 'changeSound', shotId: shot.id, soundId: sound.id, change }];
  });

const soundAfter = (sounds: readonly Sound[], step: Step): readonly Sound[] =>
  step.type === 'changeSound' ? sounds.map((sound) => (sound.id === step.soundId ? { ...sound, ...step.change } : sound)) : sounds;

/** Sounds that started within the shot and no longer do. */
function outsideWords(shot: Shot, sounds: readonly Sound[], frames: number): string {
  const outside = sounds.filter(
    (sound) => sound.startFrame >= frames && (shot.sounds.find(({ id }) => id === sound.id)?.startFrame ?? 0) < shot.frames,
  );
  if (outside.length === 0) return '';
  return `; ${outside.map((sound) => sound.name).join(', ')} then ${outside.length === 1 ? 'starts' : 'start'} past the shot’s end and ${outside.length === 1 ? 'is' : 'are'} not heard in it`;
}

/** Inserts frames before `atFrame`; notes, and sounds that start later, move with them when the whole shot is meant. */
export function insertFrames(
  context: EditContext,
  scope: FrameScope,
  atFrame: number,
  frames: number,
  as: InsertedAs,
  lengthFollows: boolean,
): Outcome<Edit> {
  const { shot, firstNumber } = context;
  const count = checkLength(frames);
  if (!count.ok) return count;
  const newLength = shot.frames + (lengthFollows ? frames : 0);
  const length = checkLength(newLength);
  if (!length.ok) return length;
  const steps = levelsIn(shot, scope).flatMap((level): Step[] => {
    const inserted = insertion(level, atFrame, frames, as);
    return inserted
      ? [{ type: 'replaceRuns', shotId: shot.id, levelId: level.id, startFrame: atFrame, removedFrames: 0, runs: [inserted] }]
      : [];
  });
  const moved = shot.notes.map((note) => (note.frame >= atFrame ? { ...note, frame: note.frame + frames } : note));
  const movedSounds = soundsSteps(shot, (sound) =>
    sound.startFrame >= atFrame ? { ...sound, startFrame: sound.startFrame + frames } : sound,
  );
  const written = scope === 'shot' ? [...notesStep(shot, moved), ...movedSounds] : [];
  const all = [...steps, ...written, ...lengthStep(shot, lengthFollows, newLength)];
  if (all.length === 0)
    return refused(`Nothing is exposed from frame ${atFrame + firstNumber} on that could move: the frames there are blank already.`);
  const words = `Insert ${plural(frames, 'frame')}`;
  return tellingEdit(
    context,
    all,
    words,
    `${words} before frame ${atFrame + firstNumber} ${scopeWords(shot, scope)}; ${shotLengthWords(shot, lengthFollows, newLength)}`,
  );
}

/**
 * Cuts frames out (both ends inclusive), what follows moving up; with the whole shot, notes on them go and later ones
 * move. A sound that starts on one of them starts where the cut is: sounds are never split.
 */
export function cutFrames(
  context: EditContext,
  scope: FrameScope,
  fromFrame: number,
  toFrame: number,
  lengthFollows: boolean,
): Outcome<Edit> {
  const { shot, firstNumber } = context;
  const frames = toFrame - fromFrame + 1;
  const newLength = shot.frames - (lengthFollows ? Math.max(0, Math.min(toFrame + 1, shot.frames) - fromFrame) : 0);
  if (newLength < 1)
    return refused(`Cutting ${framesInWords(fromFrame, toFrame, firstNumber)} would leave shot ${shot.code} without a frame.`);
  const steps = levelsIn(shot, scope).flatMap((level): Step[] =>
    fromFrame < framesOfRuns(level.exposures)
      ? [{ type: 'replaceRuns', shotId: shot.id, levelId: level.id, startFrame: fromFrame, removedFrames: frames, runs: [] }]
      : [],
  );
  const staying = shot.notes
    .filter((note) => note.frame < fromFrame || note.frame > toFrame)
    .map((note) => (note.frame > toFrame ? { ...note, frame: note.frame - frames } : note));
  const gone = scope === 'shot' ? shot.notes.length - staying.length : 0;
  const movedSounds = soundsSteps(shot, (sound) =>
    sound.startFrame > fromFrame ? { ...sound, startFrame: Math.max(fromFrame, sound.startFrame - frames) } : sound,
  );
  const written = scope === 'shot' ? [...notesStep(shot, staying), ...movedSounds] : [];
  const all = [...steps, ...written, ...lengthStep(shot, lengthFollows, newLength)];
  if (all.length === 0) return refused(`Nothing is exposed on ${framesInWords(fromFrame, toFrame, firstNumber)} or after it.`);
  const words = `Cut ${plural(frames, 'frame')}`;
  const notesWords = gone === 0 ? '' : ` and ${plural(gone, 'note')} with them`;
  const soundsNow = scope === 'shot' ? all.reduce((sounds, step) => soundAfter(sounds, step), shot.sounds) : shot.sounds;
  return tellingEdit(
    context,
    all,
    words,
    `Cut ${framesInWords(fromFrame, toFrame, firstNumber)} ${scopeWords(shot, scope)}${notesWords}; ${shotLengthWords(shot, lengthFollows, newLength)}${outsideWords(shot, soundsNow, newLength)}`,
  );
}

/**
 * Cuts every level down to a range of frames (both ends inclusive), and the shot with them, or lets it stay as long
 * as it is. What is heard stays beside its frames: a sound that has begun before is cut, one that starts later goes.
 */
export function trimTo(context: EditContext, rate: Rate, fromFrame: number, toFrame: number, lengthFollows: boolean): Outcome<Edit> {
  const { shot, firstNumber } = context;
  const frames = toFrame - fromFrame + 1;
  const runsPast = levelsIn(shot, 'shot').some((level) => framesOfRuns(level.exposures) > toFrame + 1);
  if (fromFrame <= 0 && toFrame >= shot.frames - 1 && !runsPast)
    return refused(`Shot ${shot.code} has these frames and no others: there is nothing to trim.`);
  const steps = levelsIn(shot, 'shot').flatMap((level): Step[] => {
    const total = framesOfRuns(level.exposures);
    if (total === 0) return [];
    const runs = tidyRuns(sliceRuns(level.exposures, fromFrame, Math.min(toFrame + 1, Math.max(total, fromFrame))));
    return [{ type: 'replaceRuns', shotId: shot.id, levelId: level.id, startFrame: 0, removedFrames: total, runs }];
  });
  const notes = shot.notes
    .filter((note) => note.frame >= fromFrame && note.frame <= toFrame)
    .map((note) => ({ ...note, frame: note.frame - fromFrame }));
  const sounds = soundsSteps(shot, (sound) => (sound.startFrame > toFrame ? null : soundFrom(sound, fromFrame, rate)));
  const gone = sounds.filter((step) => step.type === 'removeSound').length;
  const words = `Trim to ${framesInWords(fromFrame, toFrame, firstNumber)}`;
  return tellingEdit(
    context,
    [...steps, ...notesStep(shot, notes), ...sounds, ...lengthStep(shot, lengthFollows, frames)],
    words,
    `${words}, on every level${gone === 0 ? '' : `, and ${plural(gone, 'sound')} with nothing left go`}; ${shotLengthWords(shot, lengthFollows, frames)}`,
  );
}
