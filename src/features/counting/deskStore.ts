import { create } from 'zustand';
import type { Size } from '@/core/document/model';
import type { OutsideCount } from '@/core/outside/outsideCount';
import type { ReceiptFacts } from '@/core/outside/receiptAgainst';
import type { Side } from '@/features/counting/framePictures';
import { pathOf } from '@/ui/droppedFiles';
import { toast } from '@/ui/toast';
import { countingDesk, type DeskHeld, type HoldOrder } from '@/workers/client';

/** Something on the counting desk. `all` is how many frames there are to be counted, where that is known. */
export type Thing = { readonly id: string; readonly name: string } & (
  | { readonly kind: 'waiting' }
  | { readonly kind: 'counting'; readonly frames: number; readonly all: number | null }
  | { readonly kind: 'counted'; readonly count: OutsideCount; readonly sentences: readonly string[]; readonly repeats: Uint8Array | null }
  | { readonly kind: 'refused'; readonly reason: string }
);
export type CountedThing = Extract<Thing, { kind: 'counted' }>;

/** What a thing is held against, as it is seen. */
export type PlanView = { readonly side: Side; readonly name: string; readonly size: Size; readonly firstNumber: number };

/** What things are held against: the reel or a shot of the open project, a package, a receipt, another thing on the desk, nothing. */
export type Against =
  | { readonly kind: 'nothing' }
  /** `view` says how a package's plan looks; what of the open project's is asked for where it is. */
  | { readonly kind: 'plan'; readonly key: string; readonly name: string; readonly view: PlanView | null }
  | { readonly kind: 'receipt'; readonly name: string; readonly receipt: ReceiptFacts }
  | { readonly kind: 'thing'; readonly id: string; readonly name: string };

type DeskState = {
  readonly things: readonly Thing[];
  readonly chosenId: string | null;
  readonly against: Against;
  /** How the things agree with what they are held against, by their ids. */
  readonly held: ReadonlyMap<string, DeskHeld>;
  /** What is going on where something is held against the drawings alone; null where nothing is. */
  readonly holdingWords: string | null;
  /** The first frame of the plan (from 0) that the strips show, and the one whose pictures are seen large. */
  readonly fromFrame: number;
  readonly frame: number;
};

export const useDeskStore = create<DeskState>(() => ({
  things: [],
  chosenId: null,
  against: { kind: 'nothing' },
  held: new Map(),
  holdingWords: null,
  fromFrame: 0,
  frame: 0,
}));

/** Frames that the strips show at once. */
export const FRAMES_IN_STRIP = 13;
/** How many frames before the one that is gone to are seen. */
const BEFORE = 4;

/** Goes to a frame (from 0): the strips follow where it is not in them. */
export function goToFrame(frame: number): void {
  const { fromFrame } = useDeskStore.getState();
  const isSeen = frame >= fromFrame && frame < fromFrame + FRAMES_IN_STRIP;
  useDeskStore.setState({ frame, fromFrame: isSeen ? fromFrame : Math.max(0, frame - BEFORE) });
}

const setThing = (thing: Thing): void =>
  useDeskStore.setState(({ things }) => ({ things: things.map((each) => (each.id === thing.id ? thing : each)) }));

/** What a thing is held against, as the worker is told; null for nothing, and for itself. */
function orderFor(id: string, against: Against): HoldOrder | null {
  if (against.kind === 'nothing' || (against.kind === 'thing' && against.id === id)) return null;
  return against;
}

/** Where something is wrong first: there the strips begin. */
function firstFault({ faults }: DeskHeld): number {
  const [first] = faults;
  return first ? first.planFrame : 0;
}

async function hold(thing: CountedThing): Promise<void> {
  const { against } = useDeskStore.getState();
  const order = orderFor(thing.id, against);
  let isOver = false;
  const held =
    order &&
    (await countingDesk
      .hold(thing.id, order, (frames) => {
        // A report may come after the end.
        if (!isOver) useDeskStore.setState({ holdingWords: `It is held against the drawings alone: ${frames} frames looked at` });
      })
      .finally(() => {
        isOver = true;
        useDeskStore.setState({ holdingWords: null });
      }));
  // It may have been held against something else meanwhile.
  if (useDeskStore.getState().against !== against) return;
  useDeskStore.setState((state) => {
    const all = new Map(state.held);
    if (held) all.set(thing.id, held);
    else all.delete(thing.id);
    return { held: all };
  });
  if (held && useDeskStore.getState().chosenId === thing.id) goToFrame(firstFault(held));
}

const countedThings = (): readonly CountedThing[] =>
  useDeskStore.getState().things.filter((thing): thing is CountedThing => thing.kind === 'counted');

/** Holds all that was counted against something. */
export function holdAllAgainst(against: Against): void {
  useDeskStore.setState({ against, held: new Map() });
  void (async () => {
    for (const thing of countedThings()) await hold(thing);
  })();
}

/** Chooses a thing; its first fault is gone to. */
export function choose(id: string): void {
  const held = useDeskStore.getState().held.get(id);
  useDeskStore.setState({ chosenId: id, frame: 0, fromFrame: 0 });
  if (held) goToFrame(firstFault(held));
}

async function countThing({ id, name }: Thing): Promise<void> {
  setThing({ id, name, kind: 'counting', frames: 0, all: null });
  const end = await countingDesk.count(id, (frames, all) => {
    // A report may come after the end.
    const now = useDeskStore.getState().things.find((thing) => thing.id === id);
    if (now?.kind === 'counting') setThing({ id, name, kind: 'counting', frames, all });
  });
  if (end.kind === 'stopped') return;
  if (end.kind === 'refused') {
    setThing({ id, name, kind: 'refused', reason: end.reason });
    return;
  }
  const thing: CountedThing = { id, name, kind: 'counted', count: end.count, sentences: end.sentences, repeats: end.repeats };
  setThing(thing);
  await hold(thing);
}

/** Lays files on the desk and counts them, one after another. */
export async function putOnDesk(dropped: readonly File[]): Promise<void> {
  const files = dropped.filter(({ name }) => !/\.limetick$/i.test(name));
  for (const { name } of dropped.filter((file) => !files.includes(file)))
    toast.message(`${name} is a package: files are held against it with “A package …”.`);
  if (files.length === 0 && dropped.length > 0) return;
  try {
    const put = await countingDesk.put(files.map((file) => ({ path: pathOf(file), file })));
    if (put.length === 0) {
      toast.error('There is nothing to count in what was dropped.');
      return;
    }
    const things = put.map(({ id, name }): Thing => ({ id, name, kind: 'waiting' }));
    useDeskStore.setState((state) => ({
      things: [...state.things, ...things],
      chosenId: things[0]?.id ?? state.chosenId,
      frame: 0,
      fromFrame: 0,
    }));
    for (const thing of things) {
      if (useDeskStore.getState().things.some(({ id }) => id === thing.id)) await countThing(thing);
    }
  } catch (error) {
    toast.error(`It could not be counted: ${error instanceof Error ? error.message : String(error)}.`);
  }
}

/** Takes a thing off the desk; one that is being counted is stopped. */
export function takeOffDesk(id: string): void {
  void countingDesk.remove(id);
  useDeskStore.setState(({ things, chosenId, against }) => {
    const left = things.filter((thing) => thing.id !== id);
    const isHeld = against.kind === 'thing' && against.id === id;
    return {
      things: left,
      chosenId: chosenId === id ? (left[0]?.id ?? null) : chosenId,
      ...(isHeld ? { against: { kind: 'nothing' } as const, held: new Map() } : {}),
    };
  });
}
