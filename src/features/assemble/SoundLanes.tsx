'use client';
import { type PointerEvent, useMemo, useRef, useState } from 'react';
import type { Project } from '@/core/document/model';
import { sampleOfFrame } from '@/core/document/sound';
import { placeOnReel } from '@/core/reel/placeSound';
import { inLanes, type LanedSound, soundsOfReel } from '@/core/reel/sounds';
import { useAssembleStore } from '@/features/assemble/assembleStore';
import { type Sight, xOf } from '@/features/assemble/reelView';
import { takeOnReel } from '@/features/commands/reelCommands';
import { goToReelFrame } from '@/features/project/navigation';
import { WaveForm } from '@/features/sound/WaveForm';

export const LANE_PX = 30;
const DRAG_PX = 4;

type Props = { readonly project: Project; readonly sight: Sight };

/** The part of a sound that is in sight, as a wave; samples count at the recording's own rate. */
function VisibleWave({ project, heard, sight }: Props & { heard: LanedSound }) {
  const { sound, startFrame, endFrame } = heard;
  const { sampleRate } = sound.recording;
  const from = Math.max(startFrame, Math.floor(sight.leftFrame));
  const to = Math.min(endFrame, Math.ceil(sight.rightFrame));
  const first = sampleOfFrame(from - startFrame, project.rate, sampleRate);
  const samples = Math.min(sound.samples, sampleOfFrame(to - startFrame, project.rate, sampleRate)) - first;
  if (samples <= 0) return null;
  const width = (samples * project.rate.num * sight.scale) / (sampleRate * project.rate.den);
  return (
    <span className="pointer-events-none absolute inset-y-0" style={{ left: (from - startFrame) * sight.scale, width }}>
      <WaveForm sound={sound} fromSample={sound.fromSample + first} samples={samples} />
    </span>
  );
}

/** A sound as long as it is heard. One of a shot moves with it, one of the reel is pinned; dragged, it starts on another frame. */
function SoundOnReel({ project, heard, sight }: Props & { heard: LanedSound }) {
  const { sound, whole, shot, startFrame, endFrame, lane } = heard;
  const pressedX = useRef<number | null>(null);
  const [by, setBy] = useState(0);
  const moved = by === 0 ? null : placeOnReel(project, heard, startFrame + by - (shot ? heard.cutFrames : 0));
  const first = project.firstFrameNumber;
  const left = xOf(startFrame + by, sight);
  const hands = {
    onPointerDown: (event: PointerEvent<HTMLElement>) => {
      if (event.button !== 0) return;
      event.currentTarget.setPointerCapture(event.pointerId);
      pressedX.current = event.clientX;
    },
    onPointerMove: (event: PointerEvent<HTMLElement>) => {
      if (pressedX.current === null) return;
      const distance = event.clientX - pressedX.current;
      if (by !== 0 || Math.abs(distance) > DRAG_PX) setBy(Math.round(distance / sight.scale));
    },
    onPointerUp: () => {
      if (pressedX.current === null) return;
      pressedX.current = null;
      if (moved) takeOnReel(moved);
      setBy(0);
    },
    onPointerCancel: () => {
      pressedX.current = null;
      setBy(0);
    },
  };
  const open = () => {
    goToReelFrame(startFrame);
    useAssembleStore.setState({ tab: 'sounds' });
  };
  const owner = shot ? `of shot ${shot.code}` : 'of the reel';
  return (
    <>
      <button
        type="button"
        aria-label={`Sound ${sound.name} ${owner}${sound.muted ? ', muted' : ''}, frames ${startFrame + first} to ${endFrame - 1 + first} of the reel`}
        title={`${sound.name}, ${owner}. Drag it to start it on another frame; press to go there.`}
        onClick={() => by === 0 && open()}
        className={`ring-within absolute touch-none overflow-hidden rounded border text-left hover:border-teal ${shot ? 'border-teal/50 bg-teal/10' : 'border-teal bg-teal/20'} ${sound.muted ? 'opacity-40' : ''}`}
        style={{ left, width: Math.max(3, (endFrame - startFrame) * sight.scale), top: lane * LANE_PX, height: LANE_PX - 3 }}
        {...hands}
      >
        <VisibleWave project={project} heard={heard} sight={sight} />
        <span
          className="absolute top-0 max-w-full truncate rounded-br bg-paper/85 px-1 font-semibold text-2xs text-teal"
          style={{ left: Math.max(0, -left) }}
        >
          {whole.name}
          {!shot && ' · reel'}
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
export function SoundLanes({ project, sight }: Props) {
  const { laned, lanes } = useMemo(() => inLanes(soundsOfReel(project)), [project]);
  if (laned.length === 0) return <p className="px-1 py-1.5 text-soft text-xs">No sound yet: bring one in under Sounds.</p>;
  const shown = laned.filter(({ startFrame, endFrame }) => endFrame > sight.leftFrame && startFrame < sight.rightFrame);
  return (
    <section aria-label="Sounds on the reel" className="relative" style={{ height: lanes * LANE_PX }}>
      {shown.map((heard) => (
        <SoundOnReel key={`${heard.whole.id} ${heard.itemId}`} project={project} heard={heard} sight={sight} />
      ))}
    </section>
  );
}
