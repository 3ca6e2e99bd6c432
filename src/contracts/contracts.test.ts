import { describe, expect, it } from 'vitest';
import { newProjectSchema, sendingSchema } from '@/contracts/project';
import { sentenceOf } from '@/contracts/sentence';
import { stepSchema } from '@/contracts/step';
import type { Step } from '@/core/edit/step';
import { STEP_TYPES } from '@/core/edit/table';
import { addShotOf, clipItem, levelOf, pictureOf, shotOf, soundOf } from '@/core/testing/sheets';

const at = { shotId: 's', levelId: 'l', drawingId: 'd' };
const onLevel = { shotId: 's', levelId: 'l' };

const EACH: readonly Step[] = [
  { type: 'renameProject', title: 'Two' },
  { type: 'setFormat', rate: { num: 24000, den: 1001 }, size: { width: 1920, height: 1080 }, firstFrameNumber: 0 },
  { type: 'setPalette', palette: ['#1d2a23', '#ffffff'] },
  { type: 'setChecks', change: { destination: null, stillFrames: 48, nearPerMille: 10 } },
  { type: 'readClip', itemId: 'c', way: 'readAs', trim: null },
  { type: 'finishItem', itemId: 'c', finished: false },
  {
    type: 'setEffect',
    effectId: 'e',
    effect: { id: 'e', kind: 'layOver', deviationPx: 6.5, mode: 'plus-lighter', opacityPercent: 30, inPreview: true, inHandover: false },
    index: 0,
  },
  { type: 'setEffect', effectId: 'e', effect: null, index: 0 },
  { type: 'moveEffect', effectId: 'e', index: 1 },
  { type: 'keepFinding', finding: 'gap Sock', note: 'it breathes' },
  addShotOf(shotOf([levelOf('Sock', '1*2 2', { pictures: 'a' })]), 0),
  { type: 'removeShot', shotId: 's' },
  { type: 'moveItem', itemId: 's', index: 1 },
  { type: 'describeShot', shotId: 's', code: '020' },
  { type: 'setShotLength', shotId: 's', frames: 96 },
  { type: 'setNotes', shotId: 's', notes: [{ frame: 24, kind: 'note', words: 'lets go' }] },
  { type: 'addLevel', shotId: 's', level: levelOf('Sock', '1'), index: 0 },
  { type: 'removeLevel', ...onLevel },
  { type: 'moveLevel', ...onLevel, index: 0 },
  { type: 'describeLevel', ...onLevel, change: { visible: false, locked: true, blend: 'multiply' } },
  {
    type: 'setCharts',
    ...onLevel,
    charts: [
      {
        id: 'c',
        fromDrawing: 'd',
        toDrawing: 'e',
        shape: 'hand',
        ticks: [{ place: { num: 1, den: 3 }, drawing: null }],
        path: [{ x: 5, y: 7 }],
      },
    ],
  },
  { type: 'renumberDrawings', ...onLevel, order: [{ drawingId: 'd', number: '1' }] },
  { type: 'addDrawing', ...onLevel, drawing: { id: 'd', number: '7a', role: 'breakdown', picture: null }, index: 0 },
  { type: 'copyDrawing', ...onLevel, sourceId: 'd', copyId: 'e', number: '8', index: 1 },
  { type: 'deleteDrawing', ...at },
  { type: 'describeDrawing', ...at, role: 'key' },
  { type: 'setPicture', ...at, picture: pictureOf('a') },
  { type: 'expose', ...at, startFrame: 0, frames: 2 },
  { type: 'blank', ...onLevel, startFrame: 0, frames: 2 },
  { type: 'removeExposure', ...onLevel, atFrame: 3 },
  { type: 'setLength', ...onLevel, atFrame: 3, frames: 4, following: 'push' },
  {
    type: 'setTiming',
    words: 'Another rate',
    rate: { num: 25, den: 1 },
    shots: [
      {
        shotId: 'shot',
        frames: 12,
        notes: [],
        sounds: [{ soundId: 'sound', startFrame: 3 }],
        levels: [{ levelId: 'level', exposures: [{ drawing: null, frames: 2 }] }],
      },
    ],
    items: [
      { itemId: 'item', trim: { fromFrame: 2, frames: 4 } },
      { itemId: 'gap', frames: 3 },
    ],
    reelSounds: [{ soundId: 'hum', startFrame: 9 }],
  },
  { type: 'replaceRuns', ...onLevel, startFrame: 0, removedFrames: 1, runs: [{ drawing: null, frames: 2 }] },
  { type: 'addSound', shotId: 's', sound: soundOf('Plop', 3, 9000), index: 0 },
  { type: 'removeSound', shotId: 's', soundId: 'Plop' },
  { type: 'changeSound', shotId: 's', soundId: 'Plop', change: { startFrame: 4, gainDecibels: -6, muted: true } },
  { type: 'addSound', shotId: null, sound: soundOf('Hum', 3, 9000), index: 0 },
  {
    type: 'addItems',
    items: [
      { item: { id: 'i', kind: 'shot', finished: true, shotId: 's', trim: { fromFrame: 8, frames: 80 } }, index: 0 },
      { item: { id: 'j', kind: 'gap', finished: true, frames: 12 }, index: 1 },
      { item: clipItem('c'), index: 2 },
    ],
  },
  { type: 'removeItems', itemIds: ['i', 'j'] },
  { type: 'trimItem', itemId: 'i', trim: null },
  { type: 'setGapLength', itemId: 'j', frames: 3 },
  { type: 'together', words: 'both', steps: [{ type: 'removeShot', shotId: 's' }] },
];

describe('stepSchema', () => {
  it('knows every kind of step there is', () => expect([...new Set(EACH.map((step) => step.type))].sort()).toEqual([...STEP_TYPES].sort()));

  it.each(EACH.map((step) => [step.type, step] as const))('passes %s unchanged through JSON', (_type, step) => {
    expect(stepSchema.parse(JSON.parse(JSON.stringify(step)))).toEqual(step);
  });

  it.each([
    ['an unknown kind', { type: 'explode' }],
    ['no kind', {}],
    ['a length of 0', { type: 'setShotLength', shotId: 's', frames: 0 }],
    ['a frame below 0', { type: 'removeExposure', ...onLevel, atFrame: -1 }],
    ['half a frame', { type: 'expose', ...at, startFrame: 0.5, frames: 1 }],
    ['a digest that is none', { type: 'setPicture', ...at, picture: 'blue' }],
    ['an id with a slash', { type: 'removeShot', shotId: '../x' }],
    ['a step inside that is none', { type: 'together', words: '', steps: [{ type: 'explode' }] }],
  ])('refuses %s with a sentence', (_what, body) => {
    const parsed = stepSchema.safeParse(body);
    expect(parsed.success).toBe(false);
    if (!parsed.success) expect(sentenceOf(parsed.error)).toMatch(/^.{8,}[.!?]$/);
  });
});

describe('newProjectSchema', () => {
  const wanted = { title: 'Washday', rate: { num: 24, den: 1 }, size: { width: 1280, height: 720 }, firstFrameNumber: 1, frames: 96 };
  it('brings the rate to lowest terms', () =>
    expect(newProjectSchema.parse({ ...wanted, rate: { num: 48, den: 2 } }).rate).toEqual({ num: 24, den: 1 }));

  it.each([
    [{ rate: { num: 0, den: 1 } }, 'A rate of 0/1 makes no sense'],
    [{ rate: { num: 1, den: 0 } }, 'A rate of 1/0 makes no sense'],
    [{ frames: 0 }, "A length of 0 frames can't be"],
    [{ size: { width: 20_000, height: 720 } }, 'A picture width of 20000 px'],
    [{ title: '  ' }, 'A project needs a title.'],
    [{ firstFrameNumber: -1 }, 'The first frame number is 0 or more.'],
    [{ rate: 24 }, 'rate'],
  ])('refuses %o', (part, named) => {
    const parsed = newProjectSchema.safeParse({ ...wanted, ...part });
    expect(parsed.success ? '' : sentenceOf(parsed.error)).toContain(named);
  });
});

describe('sendingSchema', () => {
  it('refuses an empty sending and one without a revision', () => {
    const empty = sendingSchema.safeParse({ baseRevision: 0, batchId: 'b', steps: [] });
    expect(empty.success ? '' : sentenceOf(empty.error)).toContain('at least one step');
    expect(sendingSchema.safeParse({ batchId: 'b', steps: [EACH[0]] }).success).toBe(false);
  });
});
