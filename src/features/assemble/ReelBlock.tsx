'use client';
import { clipFrameAt } from '@/core/document/clip';
import type { PlacedItem } from '@/core/reel/reel';
import { clipPictureName } from '@/core/render/clipPicture';
import type { StackLayer } from '@/core/render/stacks';
import type { Rate } from '@/core/time/rate';
import { itemSentence } from '@/features/assemble/itemWords';
import { type Sight, xOf } from '@/features/assemble/reelView';
import type { ReelHands } from '@/features/assemble/useReelDrag';
import { leavingLayers } from '@/features/clock/previews';
import { useProject } from '@/features/project/hooks';
import { Thumb } from '@/features/sheet/Thumb';

/** Pictures at the joins, where there is room for them. */
const THUMB_PX = 112;
const ROOM_FOR_FIRST_PX = 60;
const ROOM_FOR_BOTH_PX = 2 * THUMB_PX;

type Props = {
  readonly placed: PlacedItem;
  readonly sight: Sight;
  readonly isChosen: boolean;
  readonly hands: ReelHands;
};

/** What an item shows on a frame of its shot or clip (from 0); nothing where that is over. */
function layersOf({ item, source }: PlacedItem, frame: number, rate: Rate): readonly StackLayer[] {
  if (!source || frame >= source.frames) return [];
  if (source.shot) return leavingLayers(source.shot, frame);
  const shown = item.kind === 'clip' ? clipFrameAt(item.clip, item.way, rate, frame) : 0;
  return [{ picture: clipPictureName(source.clip, shown), opacityPercent: 100 }];
}

/** The frame of its shot or clip an item shows at one of its ends, as a picture; paper where that is over. */
function JoinPicture({ placed, frame }: { placed: PlacedItem; frame: number }) {
  const { size, rate } = useProject();
  const layers = layersOf(placed, frame, rate);
  return <Thumb size={size} widthPx={THUMB_PX} layers={layers} />;
}

/** One item of the reel, as long as it is; its body is moved, its ends are trimmed. */
export function ReelBlock({ placed, sight, isChosen, hands }: Props) {
  const { firstFrameNumber } = useProject();
  const { item, source, shot, fromFrame, startFrame, endFrame } = placed;
  const left = xOf(startFrame, sight);
  const width = (endFrame - startFrame) * sight.scale;
  const sentence = itemSentence(placed, firstFrameNumber);
  const follow = { onPointerMove: hands.move, onPointerUp: hands.release, onPointerCancel: hands.cancel };
  const edge = isChosen ? 'border-2 border-moss' : 'border border-line hover:border-edge';
  const ground = item.kind === 'gap' ? 'bg-paper border-dashed' : isChosen ? 'bg-lime-wash' : 'bg-sunk';
  const handle = 'absolute inset-y-0 z-10 w-2 cursor-ew-resize touch-none hover:bg-moss/40';
  return (
    <div className="absolute top-0 bottom-0" style={{ left, width: Math.max(1, width - 1) }}>
      <button
        type="button"
        tabIndex={-1}
        aria-pressed={isChosen}
        aria-label={sentence}
        title={`${sentence}. Drag to move it, its ends to trim it${source ? ', with Alt to slip what it shows' : ''}.`}
        className={`flex h-full w-full touch-none select-none flex-col overflow-hidden rounded-lg text-left ${edge} ${ground}`}
        onPointerDown={hands.press('move', placed)}
        {...follow}
      >
        {source && (
          <span className="pointer-events-none relative block min-h-0 flex-1 overflow-hidden bg-desk/60">
            {width >= ROOM_FOR_FIRST_PX && (
              <span className="absolute inset-y-0 left-0" style={{ width: THUMB_PX }}>
                <JoinPicture placed={placed} frame={fromFrame} />
              </span>
            )}
            {width >= ROOM_FOR_BOTH_PX && (
              <span className="absolute inset-y-0 right-0 border-line border-l" style={{ width: THUMB_PX }}>
                <JoinPicture placed={placed} frame={fromFrame + endFrame - startFrame - 1} />
              </span>
            )}
          </span>
        )}
        <span
          className="pointer-events-none block w-full truncate px-1.5 py-0.5 text-xs leading-4"
          style={{ paddingLeft: Math.max(6, 6 - left) }}
        >
          {source ? (
            <span className={shot ? 'numbers font-semibold' : 'font-semibold'}>{source.name}</span>
          ) : (
            <span className="text-soft">gap</span>
          )}
          {width > 90 && shot?.name && ` ${shot.name}`}
          {width > 60 && <span className="numbers text-2xs text-soft"> {endFrame - startFrame} fr</span>}
        </span>
        {item.kind !== 'gap' && item.trim && width > 24 && (
          <span className="pointer-events-none absolute top-0.5 right-1 rounded bg-paper/85 px-1 text-2xs text-soft">
            {fromFrame + firstFrameNumber}–{fromFrame + endFrame - startFrame - 1 + firstFrameNumber}
          </span>
        )}
      </button>
      {width > 24 && source && (
        <span
          aria-hidden="true"
          title="Drag to trim where it starts"
          className={`${handle} left-0 rounded-l-lg`}
          onPointerDown={hands.press('start', placed)}
          {...follow}
        />
      )}
      {width > 12 && (
        <span
          aria-hidden="true"
          title={source ? 'Drag to trim where it ends' : 'Drag to make the gap longer or shorter'}
          className={`${handle} right-0 rounded-r-lg`}
          onPointerDown={hands.press('end', placed)}
          {...follow}
        />
      )}
    </div>
  );
}
