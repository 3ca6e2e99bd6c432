'use client';
import { type PointerEvent, useRef } from 'react';
import { drawingById, type Level } from '@/core/document/model';
import { type Neighbour, neighboursInReach, reachTo } from '@/core/sheet/onion';
import { runAt } from '@/core/sheet/runs';
import { changeOnion, useViewStore } from '@/features/project/viewStore';
import { ROW_PX } from '@/features/sheet/sheetRows';

type Side = 'before' | 'after';

const BAR: Readonly<Record<Side, { on: string; off: string }>> = {
  before: { on: 'bg-ochre-mark', off: 'border border-ochre-mark' },
  after: { on: 'bg-violet-mark', off: 'border border-violet-mark' },
};

/** The part of the bracket beside one neighbour: a press switches it off or on. */
function NeighbourBar({ level, neighbour: { run, side, isOff }, left }: { level: Level; neighbour: Neighbour; left: string }) {
  const number = drawingById(level, run.drawing)?.number ?? '';
  const toggle = () => {
    const { off } = useViewStore.getState().onion;
    if (run.drawing) changeOnion({ off: isOff ? off.filter((id) => id !== run.drawing) : [...off, run.drawing] });
  };
  return (
    <button
      type="button"
      tabIndex={-1}
      aria-label={`Drawing ${number} ${isOff ? 'doesn’t shine through' : 'shines through'}`}
      aria-pressed={!isOff}
      title={`${number} ${isOff ? 'is off: press to let it shine through' : 'shines through: press to switch it off'}`}
      onPointerDown={(event) => event.stopPropagation()}
      onClick={toggle}
      className="group absolute top-0 z-[15] w-[9px] cursor-pointer"
      style={{
        left: `calc(${left} - 8px)`,
        transform: `translateY(${run.startFrame * ROW_PX + 1}px)`,
        height: (run.endFrame - run.startFrame) * ROW_PX - 2,
      }}
    >
      <span className={`mx-auto block h-full w-[4px] rounded-full group-hover:w-[6px] ${isOff ? BAR[side].off : BAR[side].on}`} />
    </button>
  );
}

/**
 * How far the onion skin reaches on the level being drawn on: ochre behind, violet ahead, a bar beside each
 * neighbour. Its two ends are pulled to reach further or less far.
 */
export function OnionBracket({ level, frame, left }: { level: Level; frame: number; left: string }) {
  const onion = useViewStore((state) => state.onion);
  const pulling = useRef<Side | null>(null);
  if (!onion.on || level.kind !== 'animated') return null;
  const neighbours = neighboursInReach(level, frame, onion);
  const here = runAt(level.exposures, frame);
  const [start, end] = here?.drawing ? [here.startFrame, here.endFrame] : [frame, frame + 1];
  const endOf: Record<Side, number> = {
    before: Math.min(start, ...neighbours.filter(({ side }) => side === 'before').map(({ run }) => run.startFrame)),
    after: Math.max(end, ...neighbours.filter(({ side }) => side === 'after').map(({ run }) => run.endFrame)),
  };
  const hands = (side: Side) => ({
    onPointerDown: (event: PointerEvent<HTMLElement>) => {
      event.stopPropagation();
      event.currentTarget.setPointerCapture(event.pointerId);
      pulling.current = side;
    },
    onPointerMove: (event: PointerEvent<HTMLElement>) => {
      if (pulling.current !== side) return;
      const top = event.currentTarget.offsetParent?.getBoundingClientRect().top ?? 0;
      const toFrame = Math.floor((event.clientY - top) / ROW_PX);
      changeOnion({ [side]: reachTo(level, frame, toFrame, side, onion.by) });
    },
    onPointerUp: () => {
      pulling.current = null;
    },
    onPointerCancel: () => {
      pulling.current = null;
    },
  });
  const grip = (side: Side) => (
    <span
      aria-hidden="true"
      data-testid={`onion-${side}`}
      title={`Pull: how many drawings ${side} shine through`}
      className="absolute top-0 z-[16] flex h-[9px] w-[13px] cursor-ns-resize items-center"
      style={{ left: `calc(${left} - 10px)`, transform: `translateY(${endOf[side] * ROW_PX + (side === 'before' ? -4 : -5)}px)` }}
      {...hands(side)}
    >
      <span className={`h-[4px] w-full rounded-full ${BAR[side].on}`} />
    </span>
  );
  return (
    <>
      {/* A grid holds rows of cells and nothing else, for those who hear it. */}
      {neighbours.length > 0 && (
        <div role="row" className="contents">
          <div role="gridcell" className="contents">
            {neighbours.map((neighbour) => (
              // By its place from the drawing at hand: with a step bars move, and none is made anew.
              <NeighbourBar key={`${neighbour.side}${neighbour.distance}`} level={level} neighbour={neighbour} left={left} />
            ))}
          </div>
        </div>
      )}
      {grip('before')}
      {grip('after')}
    </>
  );
}
