'use client';
import { type PointerEvent, useMemo, useRef, useState } from 'react';
import { placeOnReel } from '@/core/reel/placeSound';
import { inLanes, type LanedSound, soundsOfReel } from '@/core/reel/sounds';
import { take } from '@/features/project/editContext';
import { useProject } from '@/features/project/hooks';
import { goToShot } from '@/features/project/navigation';
import { useViewStore } from '@/features/project/viewStore';
import { WaveForm } from '@/features/sound/WaveForm';

const LANE_PX = 34;
const DRAG_PX = 4;

/** A sound as long as it is heard; dragged along the reel it starts on another frame, and belongs to the shot that is of. */
function SoundOnReel({ heard, total }: { heard: LanedSound; total: number }) {
  const project = useProject();
  const { sound, shot, startFrame, endFrame, lane } = heard;
  const pressedX = useRef<number | null>(null);
  const [by, setBy] = useState(0);
  const moved = by === 0 ? null : placeOnReel(project, shot, sound, startFrame + by);
  const first = project.firstFrameNumber;
  const percent = (frames: number) => `${(frames * 100) / total}%`;
  const hands = {
    onPointerDown: (event: PointerEvent<HTMLElement>) => {
      event.currentTarget.setPointerCapture(event.pointerId);
      pressedX.current = event.clientX;
    },
    onPointerMove: (event: PointerEvent<HTMLElement>) => {
      const reelPx = event.currentTarget.parentElement?.clientWidth ?? 0;
      if (pressedX.current === null || reelPx === 0) return;
      const distance = event.clientX - pressedX.current;
      if (by !== 0 || Math.abs(distance) > DRAG_PX) setBy(Math.round((distance * total) / reelPx));
    },
    onPointerUp: () => {
      if (pressedX.current === null) return;
      pressedX.current = null;
      if (moved) take(moved);
      setBy(0);
    },
    onPointerCancel: () => {
      pressedX.current = null;
      setBy(0);
    },
  };
  const open = () => {
    goToShot(shot.id);
    useViewStore.setState({ frame: Math.min(sound.startFrame, shot.frames - 1) });
  };
  return (
    <>
      <button
        type="button"
        aria-label={`Sound ${sound.name}${sound.muted ? ', muted' : ''}, frames ${startFrame + first} to ${endFrame - 1 + first} of the reel`}
        title={`${sound.name}. Drag it along the reel to start it on another frame; press to go there.`}
        onClick={() => by === 0 && open()}
        className={`absolute touch-none overflow-hidden rounded border border-teal/50 bg-teal/10 text-left hover:border-teal ${sound.muted ? 'opacity-40' : ''}`}
        style={{ left: percent(startFrame + by), width: percent(endFrame - startFrame), top: lane * LANE_PX, height: LANE_PX - 3 }}
        {...hands}
      >
        <WaveForm sound={sound} fromSample={sound.fromSample} samples={sound.samples} />
        <span className="absolute top-0 left-0 max-w-full truncate rounded-br bg-paper/85 px-1 font-semibold text-2xs text-teal">
          {sound.name}
        </span>
      </button>
      {moved && (
        <output className="numbers pointer-events-none absolute -top-6 left-1 z-30 whitespace-nowrap rounded-md bg-ink px-2 py-1 text-2xs text-paper">
          {moved.ok ? moved.value.says : moved.reason}
        </output>
      )}
    </>
  );
}

/** The sounds beneath the reel, those that overlap in lanes of their own; nothing without any. */
export function SoundLanes({ total }: { total: number }) {
  const project = useProject();
  const { laned, lanes } = useMemo(() => inLanes(soundsOfReel(project)), [project]);
  if (laned.length === 0) return null;
  return (
    <section aria-label="Sounds on the reel" className="relative mt-2 overflow-x-clip" style={{ height: lanes * LANE_PX }}>
      {laned.map((heard) => (
        <SoundOnReel key={heard.sound.id} heard={heard} total={total} />
      ))}
    </section>
  );
}
