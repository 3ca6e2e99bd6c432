import { BLEND_MODES } from '@/core/document/blendModes';
import type { Digest, Size } from '@/core/document/model';
import type { RenderPlan, RenderRun } from '@/core/render/renderPlan';
import { type PictureName, type PictureStack, type StackLayer, stackKey, stackOf } from '@/core/render/stacks';
import type { Rate } from '@/core/time/rate';

/** What of a reel is looked at: what it shows, and for how long. */
export type ShownPlan = Pick<RenderPlan, 'stacks' | 'runs' | 'rate'>;

/** What there is to look at in a film: the pictures of each level in the order they first show, and the plan of its reel, null when nothing is on it. */
export type FilmLookedAt = { readonly size: Size; readonly levels: readonly (readonly Digest[])[]; readonly plan: ShownPlan | null };

/**
 * A film to look at as it is handed to a worker. A feature film shows sixty thousand pictures in as many runs: written out as a value
 * for each layer and run, with every name in full each time, it would take ten times the memory here and there. So each name is
 * said once, and the rest is numbers. Where lists follow each other in one, `ends` says where each ends (exclusive).
 */
export type PackedFilm = {
  readonly size: Size;
  readonly names: readonly PictureName[];
  /** Pictures of all levels, as places among the names. */
  readonly levels: Uint32Array;
  readonly levelEnds: Uint32Array;
  readonly plan: {
    readonly rate: Rate;
    /** Different layers, three numbers each: the place of its name, its opacity in percent, and its blend mode's place among all. */
    readonly layers: Uint32Array;
    /** Layers of all stacks, as places among the different ones. */
    readonly stacks: Uint32Array;
    readonly stackEnds: Uint32Array;
    /** 1 for a stack that is finished. */
    readonly finished: Uint8Array;
    /** Runs, three numbers each: the place of its stack, its first frame (from 0), its frames. */
    readonly runs: Uint32Array;
  } | null;
};

const NUMBERS_A_LAYER = 3;
const NUMBERS_A_RUN = 3;

/** Values told apart by a key, each with its place. */
class Places<Value> {
  readonly values: Value[] = [];
  private readonly byKey = new Map<string, number>();

  placeOf(key: string, value: Value): number {
    let place = this.byKey.get(key);
    if (place === undefined) {
      place = this.values.push(value) - 1;
      this.byKey.set(key, place);
    }
    return place;
  }
}

/** Lists one after another, and where each ends. */
function joined<Value>(lists: readonly (readonly Value[])[], placeOf: (value: Value) => number): readonly [Uint32Array, Uint32Array] {
  const all = new Uint32Array(lists.reduce((sum, list) => sum + list.length, 0));
  const ends = new Uint32Array(lists.length);
  let at = 0;
  lists.forEach((list, index) => {
    for (const value of list) all[at++] = placeOf(value);
    ends[index] = at;
  });
  return [all, ends];
}

/** The lists again. */
function parted<Value>(all: Uint32Array, ends: Uint32Array, values: readonly Value[]): Value[][] {
  return Array.from(ends, (end, index) => {
    const list: Value[] = [];
    for (let at = ends[index - 1] ?? 0; at < end; at++) list.push(values[all[at] as number] as Value);
    return list;
  });
}

/** A film made small; nothing of it is shared with what it was made of. */
export function packFilm({ size, levels, plan }: FilmLookedAt): PackedFilm {
  const names = new Places<PictureName>();
  const nameOf = (name: PictureName) => names.placeOf(name, name);
  const [ofLevels, levelEnds] = joined(levels, nameOf);
  return { size, names: names.values, levels: ofLevels, levelEnds, plan: plan && packPlan(plan, nameOf) };
}

function packPlan({ rate, stacks, runs }: ShownPlan, nameOf: (name: PictureName) => number): NonNullable<PackedFilm['plan']> {
  const layers = new Places<StackLayer>();
  const [ofStacks, stackEnds] = joined(
    stacks.map((stack) => stack.layers),
    (layer) => layers.placeOf(stackKey([layer]), layer),
  );
  const packedLayers = new Uint32Array(layers.values.length * NUMBERS_A_LAYER);
  layers.values.forEach(({ picture, opacityPercent, blend = 'normal' }, index) => {
    packedLayers.set([nameOf(picture), opacityPercent, BLEND_MODES.indexOf(blend)], index * NUMBERS_A_LAYER);
  });
  const packedRuns = new Uint32Array(runs.length * NUMBERS_A_RUN);
  runs.forEach(({ stack, startFrame, frames }, index) => {
    packedRuns[index * NUMBERS_A_RUN] = stack;
    packedRuns[index * NUMBERS_A_RUN + 1] = startFrame;
    packedRuns[index * NUMBERS_A_RUN + 2] = frames;
  });
  return {
    rate,
    layers: packedLayers,
    stacks: ofStacks,
    stackEnds,
    finished: Uint8Array.from(stacks, (stack) => (stack.finished ? 1 : 0)),
    runs: packedRuns,
  };
}

/** The numbers of a packed film, each list in memory of its own, which can be handed over and not copied. */
export function buffersOf({ levels, levelEnds, plan }: PackedFilm): readonly ArrayBuffer[] {
  const ofPlan = plan ? [plan.layers, plan.stacks, plan.stackEnds, plan.finished, plan.runs] : [];
  return [levels, levelEnds, ...ofPlan].map(({ buffer }) => buffer as ArrayBuffer);
}

/** A stack whose key is worked out only where somebody asks for it: it is as long as all its names. */
class KeyedLater implements PictureStack {
  constructor(
    readonly layers: readonly StackLayer[],
    readonly finished: boolean,
  ) {}

  get key(): string {
    return stackOf(this.layers, this.finished).key;
  }
}

/** The film that was made small; equal layers are one and the same. */
export function unpackFilm({ size, names, levels, levelEnds, plan }: PackedFilm): FilmLookedAt {
  return { size, levels: parted(levels, levelEnds, names), plan: plan && unpackPlan(plan, names) };
}

function unpackPlan(
  { rate, layers, stacks, stackEnds, finished, runs }: NonNullable<PackedFilm['plan']>,
  names: readonly PictureName[],
): ShownPlan {
  const ofLayers = Array.from({ length: layers.length / NUMBERS_A_LAYER }, (_, index): StackLayer => {
    const [name, opacityPercent, mode] = layers.subarray(index * NUMBERS_A_LAYER, (index + 1) * NUMBERS_A_LAYER) as unknown as [
      number,
      number,
      number,
    ];
    const blend = BLEND_MODES[mode];
    const layer = { picture: names[name] as PictureName, opacityPercent };
    return blend === undefined || blend === 'normal' ? layer : { ...layer, blend };
  });
  const ofRuns = Array.from({ length: runs.length / NUMBERS_A_RUN }, (_, index): RenderRun => {
    const at = index * NUMBERS_A_RUN;
    return { stack: runs[at] as number, startFrame: runs[at + 1] as number, frames: runs[at + 2] as number };
  });
  return {
    rate,
    stacks: parted(stacks, stackEnds, ofLayers).map((each, index) => new KeyedLater(each, finished[index] === 1)),
    runs: ofRuns,
  };
}
