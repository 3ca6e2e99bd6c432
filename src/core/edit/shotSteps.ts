import type { Project, SheetNote, Shot, Size } from '@/core/document/model';
import { checkPalette } from '@/core/document/palette';
import { checkSize, sameSize } from '@/core/document/size';
import { currentProperties, findShot, withProperties, withShot } from '@/core/edit/locate';
import { asItIs, checkSameRate, mapPlace, mapShotFrame, mergeLists, shotInBoth } from '@/core/edit/mapping';
import { mapItems, placesOf, withItems } from '@/core/edit/reelSteps';
import type { StepRules } from '@/core/edit/rule';
import { checkWholeShot } from '@/core/edit/wholeness';
import { done, mustBeDone, type Outcome, refused } from '@/core/outcome';
import { numberAfter } from '@/core/sheet/numbers';
import { checkLength } from '@/core/time/counts';
import { makeRate, type Rate, sameRate } from '@/core/time/rate';

function checkNewCode(project: Project, code: string, except?: string): Outcome<string> {
  if (code.trim() === '') return refused('A shot needs a code, as 010.');
  if (project.shots.some((shot) => shot.code === code && shot.id !== except)) {
    return refused(`There is a shot ${code} already: give this one another code.`);
  }
  return done(code);
}

function withShotAt(project: Project, shot: Shot, index: number): Outcome<Project> {
  if (index < 0 || index > project.shots.length)
    return refused(`Place ${index + 1} in the shot list doesn't exist: it has ${project.shots.length} shots.`);
  return done({ ...project, shots: project.shots.toSpliced(index, 0, shot) });
}

/** The value `next` when it says something else than `current`, so that what stays the same stays the same reference. */
const unlessSame = <T>(current: T, next: T | undefined, same: (a: T, b: T) => boolean): T =>
  next === undefined || same(current, next) ? current : next;

/** Largest number the first frame may be shown with. */
const LARGEST_FIRST_FRAME_NUMBER = 1_000_000;

function setFormat(project: Project, step: { rate?: Rate; size?: Size; firstFrameNumber?: number }): Outcome<Project> {
  const rate = step.rate ? makeRate(step.rate.num, step.rate.den) : done(project.rate);
  if (!rate.ok) return rate;
  const size = step.size ? checkSize(step.size.width, step.size.height) : done(project.size);
  if (!size.ok) return size;
  const { firstFrameNumber = project.firstFrameNumber } = step;
  if (!Number.isInteger(firstFrameNumber) || firstFrameNumber < 0 || firstFrameNumber > LARGEST_FIRST_FRAME_NUMBER)
    return refused(`A first frame number of ${firstFrameNumber} is not possible: use a whole number from 0 to 1,000,000.`);
  return done(
    withProperties(project, {
      rate: unlessSame(project.rate, rate.value, sameRate),
      size: unlessSame(project.size, size.value, sameSize),
      firstFrameNumber,
    }),
  );
}

type ShotStepType = 'renameProject' | 'setFormat' | 'setPalette' | 'addShot' | 'removeShot' | 'describeShot' | 'setShotLength' | 'setNotes';

const noteKey = ({ kind, frame }: SheetNote) => `${kind} ${frame}`;
const sameNote = (a: SheetNote, b: SheetNote) => a.words === b.words && noteKey(a) === noteKey(b);

/** Steps on the project and its list of shots. */
export const shotSteps: StepRules<ShotStepType> = {
  renameProject: {
    apply(project, { title }) {
      if (title.trim() === '') return refused('A project needs a title.');
      return done(withProperties(project, { title }));
    },
    invert: (before) => ({ type: 'renameProject', title: before.title }),
    map: asItIs,
    expects: (before) => before.title,
  },
  setFormat: {
    apply: setFormat,
    invert: (before, step) => ({ type: 'setFormat', ...currentProperties(before, ['rate', 'size', 'firstFrameNumber'], step) }),
    map: asItIs,
    expects: (before, step) => currentProperties(before, ['rate', 'size', 'firstFrameNumber'], step),
  },
  setPalette: {
    apply(project, { palette }) {
      const checked = checkPalette(palette);
      if (!checked.ok) return checked;
      const same = palette.length === project.palette.length && palette.every((colour, index) => colour === project.palette[index]);
      return done(same ? project : { ...project, palette });
    },
    invert: (before) => ({ type: 'setPalette', palette: before.palette }),
    map({ from, to }, step) {
      const same = (a: string, b: string) => a === b;
      return done({ ...step, palette: mergeLists(from.palette, to.palette, step.palette, (colour) => colour, same) ?? step.palette });
    },
    expects: () => null,
  },
  addShot: {
    apply(project, { shot, index, items }) {
      if (project.shots.some((other) => other.id === shot.id)) return refused(`Shot ${shot.code} is in the project already.`);
      const code = checkNewCode(project, shot.code);
      if (!code.ok) return code;
      const whole = checkWholeShot(project, shot);
      if (!whole.ok) return whole;
      const added = withShotAt(project, shot, index);
      return added.ok ? withItems(added.value, shot, items) : added;
    },
    invert: (_before, { shot }) => ({ type: 'removeShot', shotId: shot.id }),
    map(mapping, step) {
      const rate = checkSameRate(mapping, step.shot.frames);
      if (!rate.ok) return rate;
      const codes = new Set(mapping.to.shots.map((shot) => shot.code));
      const code = codes.has(step.shot.code) ? numberAfter(step.shot.code, codes) : step.shot.code;
      return done({
        ...step,
        shot: { ...step.shot, code },
        index: mapPlace(mapping.from.shots, mapping.to.shots, step.index),
        items: mapItems(mapping, step.items),
      });
    },
    expects: () => null,
  },
  removeShot: {
    apply(project, { shotId }) {
      const shot = findShot(project, shotId);
      if (!shot.ok) return shot;
      return done({
        ...project,
        shots: project.shots.filter((other) => other.id !== shotId),
        reel: { ...project.reel, items: project.reel.items.filter((item) => item.kind !== 'shot' || item.shotId !== shotId) },
      });
    },
    invert: (before, { shotId }) => ({
      type: 'addShot',
      shot: mustBeDone(findShot(before, shotId)),
      index: before.shots.findIndex((shot) => shot.id === shotId),
      items: placesOf(before, (item) => item.kind === 'shot' && item.shotId === shotId),
    }),
    map: asItIs,
    expects: (before, { shotId }) => mustBeDone(findShot(before, shotId)),
  },
  describeShot: {
    apply(project, { shotId, code, name, note }) {
      const shot = findShot(project, shotId);
      if (!shot.ok) return shot;
      if (code !== undefined) {
        const checked = checkNewCode(project, code, shotId);
        if (!checked.ok) return checked;
      }
      return done(withShot(project, shotId, (found) => withProperties(found, { code, name, note })));
    },
    invert(before, step) {
      const shot = mustBeDone(findShot(before, step.shotId));
      return { type: 'describeShot', shotId: step.shotId, ...currentProperties(shot, ['code', 'name', 'note'], step) };
    },
    map: asItIs,
    expects: (before, step) => currentProperties(mustBeDone(findShot(before, step.shotId)), ['code', 'name', 'note'], step),
  },
  setShotLength: {
    apply(project, { shotId, frames }) {
      const shot = findShot(project, shotId);
      if (!shot.ok) return shot;
      const length = checkLength(frames);
      return length.ok ? done(withShot(project, shotId, (found) => withProperties(found, { frames }))) : length;
    },
    invert: (before, { shotId }) => ({ type: 'setShotLength', shotId, frames: mustBeDone(findShot(before, shotId)).frames }),
    map(mapping, step) {
      const rate = checkSameRate(mapping, step.frames);
      return rate.ok ? done(step) : rate;
    },
    expects: (before, { shotId }) => mustBeDone(findShot(before, shotId)).frames,
  },
  setNotes: {
    apply(project, { shotId, notes }) {
      const shot = findShot(project, shotId);
      if (!shot.ok) return shot;
      if (notes.some((note) => note.frame < 0 || !Number.isInteger(note.frame))) return refused('A note stands on a frame from 1 on.');
      if (new Set(notes.map((note) => `${note.kind} ${note.frame}`)).size < notes.length)
        return refused('A frame has one note, one word and one accent at most.');
      return done(withShot(project, shotId, (found) => withProperties(found, { notes })));
    },
    invert: (before, { shotId }) => ({ type: 'setNotes', shotId, notes: mustBeDone(findShot(before, shotId)).notes }),
    map(mapping, step) {
      const rate = checkSameRate(mapping, null);
      if (!rate.ok) return rate;
      const shot = shotInBoth(mapping, step.shotId);
      if (!shot) return done(step);
      const moved = (note: SheetNote): SheetNote => ({ ...note, frame: mapShotFrame(mapping, shot.from, note.frame) });
      const notes = mergeLists(shot.from.notes.map(moved), shot.to.notes, step.notes.map(moved), noteKey, sameNote);
      if (!notes) return refused('A note on the same frame was written meanwhile.');
      return done({ ...step, notes: [...notes].sort((a, b) => a.frame - b.frame) });
    },
    expects: () => null,
  },
};
