import fc from 'fast-check';
import { afterEach, describe, expect, it, vi } from 'vitest';
import type { Project } from '@/core/document/model';
import type { RebaseOutcome, RebaseResult } from '@/core/edit/rebase';
import type { Step } from '@/core/edit/step';
import { record } from '@/core/testing/record';
import { levelOf, pictureOf, projectOf, shotOf } from '@/core/testing/sheets';
import { anyStep, START } from '@/core/testing/steps';
import { FAILED_TITLE, REFUSED_TITLE, World } from '@/testing/simulation';

/*
 * Three windows of one browser, one server: whatever is made, offline and online at any moment, answers lost,
 * windows killed, the store full, limits reached. When all is calm again nothing that was stored or accepted is
 * lost, nothing is there twice, nothing went to another drawing or exposure, and all see the same document.
 *
 * LIME_TICK_MODEL_RUNS sets another number of runs.
 */
const RUNS = Number(process.env.LIME_TICK_MODEL_RUNS ?? 2000);
/** The same runs every time, unless another number of them is asked for. */
const SEED = process.env.LIME_TICK_MODEL_RUNS === undefined ? { seed: 4151 } : {};
const MOST_MILLISECONDS_A_RUN = 10;
const PLACES = [0, 1, 2] as const;

/** A fault planted in how steps are mapped: what a mapping came to is changed. */
const planted = vi.hoisted(() => ({
  spoil: null as ((came: RebaseOutcome, step: Step) => RebaseOutcome) | null,
  isServerBlind: false,
}));
vi.mock('@/core/edit/rebase', async (original) => {
  const real = await original<typeof import('@/core/edit/rebase')>();
  return {
    ...real,
    rebase(...asked: Parameters<typeof real.rebase>): RebaseResult {
      const result = real.rebase(...asked);
      const { spoil } = planted;
      return spoil ? { ...result, mine: result.mine.map((came, index) => spoil(came, asked[2][index] as Step)) } : result;
    },
    rebasedWhole: (...asked: Parameters<typeof real.rebasedWhole>) => (planted.isServerBlind ? asked[2] : real.rebasedWhole(...asked)),
  };
});
afterEach(() => {
  planted.spoil = null;
  planted.isServerBlind = false;
});

type Model = Record<string, never>;
type Command = fc.AsyncCommand<Model, World>;

const command = (name: string, run: (world: World) => Promise<unknown>): Command => ({
  check: () => true,
  run: async (_model, world) => {
    await run(world);
  },
  toString: () => name,
});

/** A column in which many exposures look alike, so that an exposure is easily taken for another. */
const CYCLE = projectOf(shotOf([levelOf('Sock', '1*2 2*3 1*2 3 2*2 1*4 3*2 2', { pictures: 'abc' })], 80), ...START.shots.slice(1));
const sock = { shotId: 'shot-010', levelId: 'Sock' };
const retimed: fc.Arbitrary<Step> = fc.oneof(
  record({
    type: fc.constant('setLength' as const),
    ...{ shotId: fc.constant(sock.shotId), levelId: fc.constant(sock.levelId) },
    atFrame: fc.nat(18),
    frames: fc.integer({ min: 1, max: 5 }),
    following: fc.constantFrom('push' as const, 'overwrite' as const),
  }),
  record({
    type: fc.constant('removeExposure' as const),
    shotId: fc.constant(sock.shotId),
    levelId: fc.constant(sock.levelId),
    atFrame: fc.nat(18),
  }),
  record({
    type: fc.constant('replaceRuns' as const),
    shotId: fc.constant(sock.shotId),
    levelId: fc.constant(sock.levelId),
    startFrame: fc.nat(16),
    removedFrames: fc.constant(0),
    runs: fc.integer({ min: 1, max: 4 }).map((frames) => [{ drawing: null, frames }]),
  }),
  record({
    type: fc.constant('setPicture' as const),
    shotId: fc.constant(sock.shotId),
    levelId: fc.constant(sock.levelId),
    drawingId: fc.constantFrom('Sock-1', 'Sock-2', 'Sock-3'),
    picture: fc.constantFrom('d', 'e', 'f', '0', '1').map(pictureOf),
  }),
);
const troublesome: fc.Arbitrary<Step> = fc.constantFrom(REFUSED_TITLE, FAILED_TITLE).map((title) => ({ type: 'renameProject', title }));
const anything = fc.oneof({ weight: 6, arbitrary: retimed }, { weight: 4, arbitrary: anyStep }, { weight: 1, arbitrary: troublesome });

const place = fc.constantFrom(...PLACES);
const commands: readonly fc.Arbitrary<Command>[] = [
  fc.tuple(place, anything).map(([at, step]) => command(`make ${at} ${JSON.stringify(step)}`, (world) => world.make(at, step))),
  fc.tuple(place, anything).map(([at, step]) => command(`make ${at} ${JSON.stringify(step)}`, (world) => world.make(at, step))),
  fc.tuple(place, anything).map(([at, step]) => command(`make ${at} ${JSON.stringify(step)}`, (world) => world.make(at, step))),
  place.map((at) => command(`undo ${at}`, (world) => world.undo(at))),
  place.map((at) => command(`wake ${at}`, (world) => world.wake(at))),
  place.map((at) => command(`kill ${at}`, (world) => world.kill(at))),
  place.map((at) => command(`open ${at}`, (world) => world.open(at))),
  fc.boolean().map((on) =>
    command(`server ${on ? 'on' : 'off'}`, async ({ server }) => {
      server.on = on;
    }),
  ),
  fc.boolean().map((loses) =>
    command(`answers ${loses ? 'lost' : 'arrive'}`, async ({ server }) => {
      server.losesAnswers = loses;
    }),
  ),
  fc.boolean().map((full) =>
    command(`store ${full ? 'full' : 'has room'}`, async ({ store }) => {
      store.isFull = full;
    }),
  ),
  fc.constantFrom(1, 2, 1000).map((most) =>
    command(`server takes ${most} at once`, async ({ server }) => {
      server.mostStepsTaken = most;
    }),
  ),
];

/** Runs commands in a world, and gives the faults that are there when all is calm again. */
async function faultsAfter(list: Iterable<Command>, start: Project, plant: (world: World) => void = () => undefined) {
  const world = new World(start);
  plant(world);
  for (const at of PLACES) await world.open(at);
  await fc.asyncModelRun(() => ({ model: {}, real: world }), list);
  await world.calm(PLACES);
  return { faults: world.faults(), world };
}

const property = (plant?: (world: World) => void) =>
  fc.asyncProperty(fc.commands([...commands], { maxCommands: 40, size: 'max' }), fc.constantFrom(CYCLE, START), async (list, start) => {
    const { faults } = await faultsAfter(list, start, plant);
    expect(faults).toEqual([]);
  });

describe('three windows and a server', () => {
  it(
    'lose nothing, double nothing, change nothing else than meant, and end alike',
    async () => {
      await fc.assert(property(), { numRuns: RUNS, endOnFailure: false, ...SEED });
    },
    20 * 60_000 + RUNS * MOST_MILLISECONDS_A_RUN,
  );

  it('keep a move past what another window took off the reel and put back', async () => {
    const gap = START.reel.items.find(({ kind }) => kind === 'gap')?.id ?? '';
    const list = [
      command('take the gap off', (world) => world.make(0, { type: 'removeItems', itemIds: [gap] })),
      command('move a shot behind it', (world) => world.make(2, { type: 'moveItem', itemId: 'shot-010', index: 1 })),
      command('undo', (world) => world.undo(0)),
    ];
    expect((await faultsAfter(list, START)).faults).toEqual([]);
  });

  it('meet every kind of thing that is tried here', async () => {
    let [accepted, aside, mapped, mappedThere] = [0, 0, 0, 0];
    await fc.assert(
      fc.asyncProperty(fc.commands([...commands], { maxCommands: 40, size: 'max' }), async (list) => {
        const { world } = await faultsAfter(list, CYCLE);
        accepted += world.server.journal.length;
        aside += world.asideTold.size;
        mappedThere += world.server.mappedSendings;
        mapped += world.server.journal.filter(({ step, stepId }) => {
          const made = world.server.made.get(stepId ?? '');
          return made && JSON.stringify(made.step) !== JSON.stringify(step);
        }).length;
      }),
      { numRuns: 150 },
    );
    expect(accepted).toBeGreaterThan(200);
    expect(aside).toBeGreaterThan(20);
    expect(mapped).toBeGreaterThan(5);
    expect(mappedThere).toBeGreaterThan(20);
  }, 120_000);

  it.each<readonly [string, (world: World) => void]>([
    [
      'a server that doesn’t say whose steps are whose',
      (world) => {
        world.server.forgetsIds = true;
      },
    ],
    [
      'a server that takes late steps where they were',
      () => {
        planted.isServerBlind = true;
      },
    ],
    [
      'a store that forgets a step now and then',
      (world) => {
        world.store.forgetsEvery = 3;
      },
    ],
    [
      'steps that are made again where they were',
      () => {
        planted.spoil = (came, step) => (came.kind === 'made' && came.step ? { kind: 'made', step } : came);
      },
    ],
    [
      'conflicts that are made all the same',
      () => {
        planted.spoil = (came, step) => (came.kind === 'conflict' ? { kind: 'made', step } : came);
      },
    ],
    [
      'conflicts that are dropped',
      () => {
        planted.spoil = (came) => (came.kind === 'conflict' ? { kind: 'made', step: null } : came);
      },
    ],
  ])(
    'would find %s',
    async (_what, plant) => {
      await expect(fc.assert(property(plant), { numRuns: 400, ...SEED })).rejects.toThrow(/Property failed/);
    },
    240_000,
  );
});
