'use client';
import { Pause, Play, Volume2, VolumeX } from 'lucide-react';
import { memo } from 'react';
import { useShallow } from 'zustand/react/shallow';
import { itemAt } from '@/core/reel/reel';
import { countsOfMoment, plural } from '@/core/time/counts';
import { type Rate, rateFraction, rateName } from '@/core/time/rate';
import { STOP } from '@/core/words';
import { type Played, rangeOf, usePlayed, usePlayedFrame, usePlayedLoop } from '@/features/clock/played';
import { playerHint, toggleSound } from '@/features/clock/playerCommands';
import { usePlayerStore, usePlayStore } from '@/features/clock/playStore';
import { TickStrip } from '@/features/clock/TickStrip';
import { toggleLoop, togglePlaying } from '@/features/commands/clockCommands';
import { hint } from '@/features/commands/everyCommand';
import { useProject } from '@/features/project/hooks';
import { useViewStore } from '@/features/project/viewStore';
import { Button } from '@/ui/Button';

function LateWords() {
  const { ticks, late, preparing, byTheSound } = usePlayStore(
    useShallow(({ ticks, late, preparing, byTheSound }) => ({ ticks, late, preparing, byTheSound })),
  );
  const playing = useViewStore((state) => state.playing);
  if (preparing) return <span className="text-soft text-xs">getting pictures ready</span>;
  if (!playing && ticks === 0) return null;
  return (
    <output className={`numbers text-xs ${late > 0 ? 'text-rust' : 'text-moss'}`} data-testid="late">
      {late} of {ticks} late{byTheSound ? ', by the sound' : ''}
    </output>
  );
}

/** Whether the film's sound is heard; says why not when it should be and isn't. */
function SoundSwitch() {
  const soundOn = usePlayerStore((state) => state.soundOn);
  const trouble = usePlayStore((state) => state.soundTrouble);
  const words = soundOn ? 'Sound is on: press to play without it' : 'Sound is off: press to hear it';
  return (
    <Button
      tight
      kind="quiet"
      aria-pressed={soundOn}
      aria-label="Sound"
      title={trouble && soundOn ? trouble : playerHint('sound-on', words)}
      onClick={toggleSound}
      className={soundOn ? (trouble ? 'text-rust' : 'text-teal') : 'text-soft'}
    >
      {soundOn && !trouble ? <Volume2 size={15} /> : <VolumeX size={15} />}
    </Button>
  );
}

/** What is played over and over, and what pressing does about it, in the shot and on the reel. */
function LoopButton({ played }: { played: Played }) {
  const { firstFrameNumber } = useProject();
  const loop = usePlayedLoop();
  const onReel = useViewStore((state) => state.onReel);
  const canLoop = useViewStore((state) => (state.onReel ? state.reelSelection.length > 0 : state.selection !== null));
  const range = rangeOf(played.frames, loop);
  const what = onReel ? 'the whole reel' : 'the whole shot';
  const words = canLoop
    ? 'Loop over the selection'
    : loop
      ? `Loop over ${what} again`
      : onReel
        ? 'Select items on the reel, then loop over them'
        : 'Select frames on the sheet, then loop over them';
  return (
    <Button onClick={toggleLoop} disabled={!canLoop && !loop} title={hint(words, 'loop')} className="numbers whitespace-nowrap font-medium">
      {loop ? 'Loop' : 'All'} {range.fromFrame + firstFrameNumber}–{range.toFrame + firstFrameNumber}
    </Button>
  );
}

/** Where in its shot the reel's current frame is, or that it is paper. */
function WhereOnReel() {
  const project = useProject();
  const frame = useViewStore((state) => state.reelFrame);
  const placed = itemAt(project, frame);
  const first = project.firstFrameNumber;
  if (!placed) return null;
  const { source, shot, fromFrame, startFrame, endFrame } = placed;
  const words = source
    ? `${source.name}: ${frame - startFrame + fromFrame + first} of ${source.frames - 1 + first}`
    : `gap: ${frame - startFrame + 1} of ${endFrame - startFrame}`;
  return (
    <span
      className="numbers whitespace-nowrap text-xs"
      data-testid="shot-now"
      title={shot ? `Shot ${shot.code}, ${shot.name}` : (source?.name ?? 'Paper')}
    >
      {words}
    </span>
  );
}

/** Where we are in what is played, in every count at once. It alone follows each frame. */
const Now = memo(function Now({ frames, rate, firstNumber }: { frames: number; rate: Rate; firstNumber: number }) {
  const frame = usePlayedFrame();
  const onReel = useViewStore((state) => state.onReel);
  const counts = countsOfMoment(Math.min(frame, frames - 1), rate, firstNumber);
  const lastNumber = firstNumber + frames - 1;
  return (
    <>
      <div className="flex items-baseline gap-2" role="timer" aria-label="Now">
        <span
          className="inline-block text-right font-bold font-head text-3xl tabular-nums leading-none"
          style={{ minWidth: `${String(lastNumber).length}ch` }}
          data-testid="frame-now"
        >
          {counts.frame}
        </span>
        <span className="numbers whitespace-nowrap text-soft text-xs">of {lastNumber}</span>
      </div>
      {onReel && <WhereOnReel />}
      <span className="numbers hidden whitespace-nowrap text-xs sm:inline">{counts.seconds} s</span>
      <span className="numbers hidden whitespace-nowrap text-xs md:inline">{counts.timecode}</span>
      <span className="numbers hidden whitespace-nowrap text-xs lg:inline">{counts.footage}</span>
    </>
  );
});

/** Where we are, in every count at once; play, loop, and the whole shot, or reel, to scrub on. */
export function Clock() {
  const project = useProject();
  const played = usePlayed();
  const playing = useViewStore((state) => state.playing);
  if (!played) return <footer className="h-12" />;
  return (
    <footer className="isolate flex min-h-12 items-center gap-4 px-4 max-[760px]:flex-wrap max-[760px]:gap-x-3 max-[760px]:gap-y-1 max-[760px]:py-1">
      <Button
        kind="go"
        onClick={togglePlaying}
        aria-label={playing ? STOP : 'Play'}
        title={hint(playing ? STOP : 'Play', 'play')}
        className="w-10"
      >
        {playing ? <Pause size={14} fill="currentColor" /> : <Play size={14} fill="currentColor" />}
      </Button>
      <LoopButton played={played} />
      <Now frames={played.frames} rate={project.rate} firstNumber={project.firstFrameNumber} />
      <TickStrip />
      <SoundSwitch />
      <LateWords />
      <span className="numbers whitespace-nowrap text-xs" title={`${rateFraction(project.rate)} frames a second`}>
        {rateName(project.rate)} fps
      </span>
      <span className="hidden whitespace-nowrap text-soft text-xs xl:inline">
        {played.name}, {plural(played.frames, 'frame')}
      </span>
    </footer>
  );
}
