'use client';
import { type PointerEvent, useMemo, useRef, useState } from 'react';
import type { Shot } from '@/core/document/model';
import type { Sound } from '@/core/document/sound';
import { moveSound } from '@/core/edit/soundEdits';
import { inLanes, type LanedSound, soundsOverShot } from '@/core/reel/sounds';
import { loudnessOf } from '@/core/sound/peaks';
import type { Rate } from '@/core/time/rate';
import { contextIn, take } from '@/features/project/editContext';
import { useProject } from '@/features/project/hooks';
import { goToFrame } from '@/features/project/navigation';
import { useRecordingStore } from '@/features/project/recordings';
import { ROW_PX } from '@/features/sheet/sheetRows';

/** A lane of its own for sounds that overlap, narrower where there are several. */
const LANE_PX = 24;
const WIDEST_PX = 44;
const GAP_PX = 8;
/** So many parts of a frame are drawn. */
const PARTS = 4;
const DRAG_PX = 4;

/** The outline of how loud a sound is on frames from `fromFrame` (inclusive) to `toFrame` (exclusive), both from its own start. */
function waveOutline(sound: Sound, peaks: Uint8Array, rate: Rate, fromFrame: number, toFrame: number, widthPx: number): string {
  const middle = widthPx / 2;
  const loudness = loudnessOf(sound, peaks, rate, fromFrame, toFrame, PARTS);
  const reach = loudness.map((part) => Math.max(0.5, part * (middle - 2)));
  const y = (index: number) => ((index + 0.5) * ROW_PX) / PARTS;
  const right = reach.map((by, index) => `${(middle + by).toFixed(1)},${y(index).toFixed(1)}`);
  const left = reach.map((by, index) => `${(middle - by).toFixed(1)},${y(index).toFixed(1)}`).reverse();
  return [...right, ...left].join(' ');
}

type BlockProps = {
  readonly heard: LanedSound;
  readonly shot: Shot;
  readonly left: number;
  readonly width: number;
  readonly fromFrame: number;
  readonly toFrame: number;
};

/** One sound beside the frames it is heard on, as far as they are in sight; dragged up and down it starts on another. */
function SoundBlock({ heard, shot, left, width, fromFrame, toFrame }: BlockProps) {
  const project = useProject();
  const { rate, firstFrameNumber: firstNumber } = project;
  const { sound, startFrame, endFrame } = heard;
  const peaks = useRecordingStore((state) => state.peaks.get(sound.recording.original));
  const pressedY = useRef<number | null>(null);
  const [by, setBy] = useState(0);
  const isOwn = heard.shot?.id === shot.id;
  const first = Math.max(startFrame, fromFrame);
  const end = Math.min(endFrame, toFrame);
  const points = useMemo(
    () => (peaks ? waveOutline(sound, peaks, rate, first - startFrame, end - startFrame, width) : ''),
    [sound, peaks, rate, first, end, startFrame, width],
  );
  if (end <= first) return null;
  const moved = by === 0 ? null : moveSound(contextIn(project, shot), sound, sound.startFrame + by, rate);
  const whole = `${sound.name}${sound.muted ? ', muted' : ''}, frames ${startFrame + firstNumber} to ${endFrame - 1 + firstNumber}`;
  const hands = {
    onPointerDown: (event: PointerEvent<HTMLElement>) => {
      if (event.button !== 0) return;
      event.stopPropagation();
      event.currentTarget.setPointerCapture(event.pointerId);
      pressedY.current = event.clientY;
    },
    onPointerMove: (event: PointerEvent<HTMLElement>) => {
      if (pressedY.current === null || !isOwn) return;
      const distance = event.clientY - pressedY.current;
      if (by !== 0 || Math.abs(distance) > DRAG_PX) setBy(Math.round(distance / ROW_PX));
    },
    onPointerUp: (event: PointerEvent<HTMLElement>) => {
      if (pressedY.current === null) return;
      pressedY.current = null;
      if (moved) take(moved);
      else goToFrame(first + Math.floor((event.clientY - event.currentTarget.getBoundingClientRect().top) / ROW_PX));
      setBy(0);
    },
    onPointerCancel: () => {
      pressedY.current = null;
      setBy(0);
    },
  };
  return (
    <div role="row" className="contents">
      <div
        role="gridcell"
        aria-label={`Sound ${whole}${isOwn ? '' : `, from ${heard.shot ? `shot ${heard.shot.code}` : 'the reel'}`}`}
        title={
          isOwn
            ? `${whole}. Drag it up or down to start it on another frame.`
            : `${whole}. It starts in ${heard.shot ? `shot ${heard.shot.code}` : 'the reel'}.`
        }
        className={`absolute z-[4] overflow-hidden bg-teal/10 ${startFrame >= fromFrame ? 'rounded-t-[6px] border-teal border-t-2' : ''} ${endFrame <= toFrame ? 'rounded-b-[6px]' : ''} ${isOwn ? 'cursor-ns-resize' : ''} ${sound.muted ? 'opacity-40' : ''}`}
        style={{ left, width, top: (first + by) * ROW_PX, height: (end - first) * ROW_PX }}
        {...hands}
      >
        <svg aria-hidden="true" className="absolute inset-0 h-full w-full fill-teal/70">
          <polygon points={points} />
        </svg>
        {startFrame >= fromFrame && (
          <span className="relative ml-auto block w-[15px] rounded-b bg-paper/80 py-0.5 font-semibold text-2xs text-teal [writing-mode:vertical-rl]">
            {sound.name}
          </span>
        )}
      </div>
      {moved && (
        <output
          className="numbers pointer-events-none absolute z-30 whitespace-nowrap rounded-md bg-ink px-2 py-1 text-2xs text-paper"
          style={{ top: (first + by) * ROW_PX - 24, left: 8 }}
        >
          {moved.ok ? moved.value.says : moved.reason}
        </output>
      )}
    </div>
  );
}

/** Sounds over a shot in their lanes, those that began in an earlier one among them, and how wide the column of them is. */
export function useSoundsOver(shot: Shot): { readonly laned: readonly LanedSound[]; readonly lanePx: number; readonly widthPx: number } {
  const project = useProject();
  return useMemo(() => {
    const sounds = soundsOverShot(project, shot.id);
    const { laned, lanes } = inLanes(sounds);
    const widthPx = sounds.length === 0 ? 0 : Math.min(WIDEST_PX, lanes * LANE_PX + GAP_PX);
    return { laned, lanePx: Math.floor((widthPx - GAP_PX) / lanes), widthPx };
  }, [project, shot.id]);
}

type ColumnProps = {
  readonly laned: readonly LanedSound[];
  readonly lanePx: number;
  readonly shot: Shot;
  readonly left: number;
  readonly fromFrame: number;
  readonly toFrame: number;
};

/** The column of sounds: how loud each is beside every frame, for the rows in sight. */
export function SoundColumn({ laned, lanePx, shot, left, fromFrame, toFrame }: ColumnProps) {
  return laned.map((heard) => (
    <SoundBlock
      key={heard.sound.id}
      heard={heard}
      shot={shot}
      left={left + heard.lane * lanePx}
      width={lanePx - 1}
      fromFrame={fromFrame}
      toFrame={Math.min(toFrame, shot.frames)}
    />
  ));
}
