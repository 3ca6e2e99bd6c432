import fc from 'fast-check';
import { BLEND_MODES } from '@/core/document/blendModes';
import { NOTE_KINDS, newGap, type Project, wholeShot } from '@/core/document/model';
import type { TimingChart } from '@/core/document/timingChart';
import type { Step } from '@/core/edit/step';
import { partialRecord, record } from '@/core/testing/record';
import { addShotOf, clipItem, levelOf, pictureOf, projectOf, shotOf, soundOf } from '@/core/testing/sheets';
import { fraction } from '@/core/time/fraction';

/** A chart between two of the sock's drawings, its one tick perhaps the third. */
const chartOf = (id: string, fromDrawing: string, toDrawing: string, drawing: string | null): TimingChart => ({
  id,
  fromDrawing,
  toDrawing,
  shape: 'even',
  ticks: [{ place: fraction(1, 2), drawing }],
  path: [{ x: 1, y: 2 }],
});

const SHOTS = projectOf(
  shotOf(
    [
      levelOf('Yard', '1', { kind: 'still', pictures: 'a' }),
      { ...levelOf('Sock', '1*2 2*2 .*3 3', { pictures: 'bcd' }), charts: [chartOf('chart', 'Sock-1', 'Sock-3', 'Sock-2')] },
      levelOf('Pegs', '1*4 2 1*2'),
    ],
    12,
  ),
  { ...shotOf([levelOf('Snail', '1*3 2*3')], 8, '020'), sounds: [soundOf('Wind', 0, 20_000)] },
);

/** The document that random steps are made on: two shots with a gap between, a still level, charts, a sound of a shot and one of the reel. */
export const START: Project = {
  ...SHOTS,
  reel: {
    items: SHOTS.reel.items.toSpliced(1, 0, newGap('gap', 5), clipItem('clip')),
    sounds: [soundOf('Hum', 2, 12_000)],
  },
  finish: [
    { id: 'soft', kind: 'layOver', deviationPx: 6, mode: 'screen', opacityPercent: 30, inPreview: true, inHandover: true },
    { id: 'held', kind: 'holdColours', range: { from: 16, to: 235 }, inPreview: false, inHandover: true },
  ],
};

const shotId = fc.constantFrom('shot-010', 'shot-020', 'shot-new');
const levelId = fc.constantFrom('Yard', 'Sock', 'Pegs', 'Snail', 'Extra');
const drawingId = fc.constantFrom('Sock-1', 'Sock-2', 'Sock-3', 'Pegs-1', 'Pegs-2', 'Snail-1', 'Yard-1', 'made');
const soundId = fc.constantFrom('Wind', 'Plop', 'Hum');
const ofSounds = { shotId: fc.constantFrom('shot-010', 'shot-020', null) };
const frame = fc.integer({ min: -1, max: 14 });
const frames = fc.integer({ min: 0, max: 6 });
const index = fc.integer({ min: 0, max: 4 });
const onShot = { shotId };
const onLevel = { shotId, levelId };
const onDrawing = { shotId, levelId, drawingId };
const number = fc.constantFrom('1', '2', '9', '9a', '');
const following = fc.constantFrom('push' as const, 'overwrite' as const);

/** Any single step, sensible or not, of every kind there is. */
export const SIMPLE_STEPS: Record<Exclude<Step['type'], 'together'>, fc.Arbitrary<Step>> = {
  renameProject: record({ type: fc.constant('renameProject' as const), title: fc.constantFrom('Washday', 'Two', ' ') }),
  setFormat: partialRecord(
    {
      type: fc.constant('setFormat' as const),
      rate: fc.constantFrom({ num: 25, den: 1 }, { num: 24000, den: 1001 }, { num: 0, den: 1 }),
      size: fc.constantFrom({ width: 1920, height: 1080 }, { width: 0, height: 5 }),
      firstFrameNumber: fc.integer({ min: -1, max: 1001 }),
    },
    ['type'],
  ),
  setTiming: record({
    type: fc.constant('setTiming' as const),
    words: fc.constant('Another rate'),
    rate: fc.constantFrom({ num: 25, den: 1 }, { num: 12, den: 1 }, { num: 24, den: 1 }),
    shots: fc.array(
      record({
        shotId,
        frames,
        notes: fc.constantFrom([], [{ kind: 'note' as const, frame: 1, words: 'a' }]),
        sounds: fc.constantFrom([], [{ soundId: 'Wind', startFrame: 2 }]),
        levels: fc.array(
          record({
            levelId: fc.constantFrom('Sock', 'Pegs', 'Snail', 'Yard'),
            exposures: fc.array(
              record({ drawing: fc.constantFrom(null, 'Sock-1', 'Pegs-2', 'Snail-1'), frames: fc.integer({ min: 1, max: 4 }) }),
              {
                maxLength: 3,
              },
            ),
          }),
          { maxLength: 1 },
        ),
      }),
      { maxLength: 2 },
    ),
    items: fc.constantFrom(
      [],
      [{ itemId: 'shot-020', trim: { fromFrame: 1, frames: 4 } }],
      [{ itemId: 'gap', frames: 9 }],
      [{ itemId: 'gone', frames: 1 }],
    ),
    reelSounds: fc.constantFrom([], [{ soundId: 'Hum', startFrame: 7 }]),
  }),
  setPalette: record({
    type: fc.constant('setPalette' as const),
    palette: fc.array(fc.constantFrom('#1d2a23', '#ffffff', 'red'), { maxLength: 3 }),
  }),
  setChecks: record({
    type: fc.constant('setChecks' as const),
    change: fc.constantFrom({ destination: 'web-film' }, { stillFrames: 24, nearPerMille: 0 }, { stillFrames: -1 }),
  }),
  keepFinding: record({
    type: fc.constant('keepFinding' as const),
    finding: fc.constantFrom('gap Sock', 'still Sock', 'apart Line'),
    note: fc.constantFrom('it breathes', '', null),
  }),
  addShot: fc.tuple(index, index).map(([place, reelIndex]) => addShotOf(shotOf([levelOf('Extra', '1*2')], 6, 'new'), place, reelIndex)),
  removeShot: record({ type: fc.constant('removeShot' as const), ...onShot }),
  addItems: fc.tuple(fc.constantFrom('again', 'pause', 'shot-010'), index, index, fc.boolean()).map(([id, place, more, isGap]) => ({
    type: 'addItems' as const,
    items: [
      {
        item: isGap ? newGap(id, more) : { ...wholeShot('shot-020'), id },
        index: place,
      },
      { item: { ...wholeShot('shot-010'), id: `${id}2`, trim: { fromFrame: more, frames: 3 } }, index: more },
    ],
  })),
  removeItems: record({
    type: fc.constant('removeItems' as const),
    itemIds: fc.uniqueArray(fc.constantFrom('shot-010', 'shot-020', 'gap', 'again'), { maxLength: 3 }),
  }),
  trimItem: record({
    type: fc.constant('trimItem' as const),
    itemId: fc.constantFrom('shot-010', 'shot-020', 'gap', 'clip', 'again2'),
    trim: fc.option(record({ fromFrame: fc.integer({ min: -1, max: 9 }), frames }), { nil: null }),
  }),
  setGapLength: record({ type: fc.constant('setGapLength' as const), itemId: fc.constantFrom('gap', 'pause', 'shot-010'), frames }),
  readClip: record({
    type: fc.constant('readClip' as const),
    itemId: fc.constantFrom('clip', 'gap'),
    way: fc.constantFrom('readAs' as const, 'converted' as const),
    trim: fc.option(record({ fromFrame: fc.integer({ min: -1, max: 9 }), frames }), { nil: null }),
  }),
  finishItem: record({
    type: fc.constant('finishItem' as const),
    itemId: fc.constantFrom('clip', 'gap', 'shot-010', 'gone'),
    finished: fc.boolean(),
  }),
  setEffect: fc
    .tuple(fc.constantFrom('soft', 'held', 'more'), fc.integer({ min: -1, max: 12 }), index, fc.boolean())
    .map(([effectId, deviationPx, place, isGone]) => ({
      type: 'setEffect' as const,
      effectId,
      effect: isGone ? null : ({ id: effectId, kind: 'blur', deviationPx, inPreview: true, inHandover: deviationPx > 4 } as const),
      index: place,
    })),
  moveEffect: record({ type: fc.constant('moveEffect' as const), effectId: fc.constantFrom('soft', 'held', 'more'), index }),
  moveItem: record({ type: fc.constant('moveItem' as const), itemId: fc.constantFrom('shot-010', 'shot-020', 'gap', 'clip'), index }),
  describeShot: record({
    type: fc.constant('describeShot' as const),
    ...onShot,
    code: fc.constantFrom('010', '040'),
    name: fc.string(),
  }),
  setShotLength: record({ type: fc.constant('setShotLength' as const), ...onShot, frames }),
  setNotes: record({
    type: fc.constant('setNotes' as const),
    ...onShot,
    notes: fc.array(record({ frame, kind: fc.constantFrom(...NOTE_KINDS), words: fc.string() }), { maxLength: 2 }),
  }),
  addSound: record({ type: fc.constant('addSound' as const), ...ofSounds, sound: fc.constant(soundOf('Plop', 3, 9000)), index }),
  removeSound: record({ type: fc.constant('removeSound' as const), ...ofSounds, soundId }),
  changeSound: record({
    type: fc.constant('changeSound' as const),
    ...ofSounds,
    soundId,
    change: partialRecord({
      name: fc.constantFrom('A', ' '),
      startFrame: frame,
      fromSample: fc.integer({ min: -1, max: 5000 }),
      samples: fc.integer({ min: 0, max: 9001 }),
      gainDecibels: fc.integer({ min: -61, max: 13 }),
      fadeInFrames: fc.integer({ min: -1, max: 9 }),
      fadeOutFrames: fc.integer({ min: -1, max: 9 }),
      muted: fc.boolean(),
    }),
  }),
  addLevel: record({ type: fc.constant('addLevel' as const), ...onShot, level: fc.constant(levelOf('Extra', '1*2 2')), index }),
  removeLevel: record({ type: fc.constant('removeLevel' as const), ...onLevel }),
  moveLevel: record({ type: fc.constant('moveLevel' as const), ...onLevel, index }),
  describeLevel: record({
    type: fc.constant('describeLevel' as const),
    ...onLevel,
    change: partialRecord({
      name: fc.constantFrom('A', ' '),
      visible: fc.boolean(),
      locked: fc.boolean(),
      opacityPercent: fc.integer({ min: -1, max: 101 }),
      blend: fc.constantFrom(...BLEND_MODES),
    }),
  }),
  setCharts: record({
    type: fc.constant('setCharts' as const),
    ...onLevel,
    charts: fc.array(
      fc.tuple(fc.constantFrom('chart', 'other'), drawingId, drawingId, fc.option(drawingId)).map((parts) => chartOf(...parts)),
      { maxLength: 2 },
    ),
  }),
  renumberDrawings: record({
    type: fc.constant('renumberDrawings' as const),
    ...onLevel,
    order: fc.constantFrom(
      [
        { drawingId: 'Sock-3', number: '1' },
        { drawingId: 'Sock-1', number: '2' },
        { drawingId: 'Sock-2', number: '3' },
      ],
      [
        { drawingId: 'Pegs-2', number: '7' },
        { drawingId: 'Pegs-1', number: '8' },
      ],
      [{ drawingId: 'Sock-1', number: '1' }],
    ),
  }),
  addDrawing: record({
    type: fc.constant('addDrawing' as const),
    ...onLevel,
    index,
    drawing: record({
      id: fc.constant('made'),
      number,
      role: fc.constant('key' as const),
      picture: fc.constantFrom(null, pictureOf('e')),
    }),
  }),
  copyDrawing: record({
    type: fc.constant('copyDrawing' as const),
    ...onLevel,
    sourceId: drawingId,
    copyId: fc.constantFrom('made', 'copy'),
    number,
    index,
  }),
  deleteDrawing: record({ type: fc.constant('deleteDrawing' as const), ...onDrawing }),
  describeDrawing: record({
    type: fc.constant('describeDrawing' as const),
    ...onDrawing,
    number,
    role: fc.constantFrom('key' as const, 'breakdown' as const),
  }),
  setPicture: record({
    type: fc.constant('setPicture' as const),
    ...onDrawing,
    picture: fc.constantFrom(null, pictureOf('f'), 'no digest'),
  }),
  expose: record({ type: fc.constant('expose' as const), ...onDrawing, startFrame: frame, frames }),
  blank: record({ type: fc.constant('blank' as const), ...onLevel, startFrame: frame, frames }),
  removeExposure: record({ type: fc.constant('removeExposure' as const), ...onLevel, atFrame: frame }),
  setLength: record({ type: fc.constant('setLength' as const), ...onLevel, atFrame: frame, frames, following }),
  replaceRuns: record({
    type: fc.constant('replaceRuns' as const),
    ...onLevel,
    startFrame: fc.nat(14),
    removedFrames: fc.nat(6),
    runs: fc.array(record({ drawing: fc.option(drawingId), frames }), { maxLength: 3 }),
  }),
};
/** The step on the shot and level its drawing and level are really on, so that most steps find what they are for. */
function wherePossible(step: Step): Step {
  if (!('levelId' in step)) return step;
  const named = 'drawingId' in step ? step.drawingId : 'sourceId' in step ? step.sourceId : '';
  const levelId = named.includes('-') ? (named.split('-')[0] ?? step.levelId) : step.levelId;
  return { ...step, levelId, shotId: levelId === 'Snail' ? 'shot-020' : 'shot-010' };
}

const single = fc
  .tuple(fc.oneof(...Object.values(SIMPLE_STEPS)), fc.nat(9))
  .map(([step, chance]): Step => (chance === 0 ? step : wherePossible(step)));
const together = record({
  type: fc.constant('together' as const),
  words: fc.constant('several'),
  steps: fc.array(single, { maxLength: 3 }),
});
/** Any step, sensible or not, one in five of several steps. */
export const anyStep: fc.Arbitrary<Step> = fc.oneof({ weight: 4, arbitrary: single }, { weight: 1, arbitrary: together });
