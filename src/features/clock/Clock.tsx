'use client';
import { Pause, Play, Volume2, VolumeX } from 'lucide-react';
import { useShallow } from 'zustand/react/shallow';
import { countsOfMoment, plural } from '@/core/time/counts';
import { rateFraction, rateName } from '@/core/time/rate';
import { STOP } from '@/core/words';
import { playerHint, toggleSound } from '@/features/clock/playerCommands';
import { usePlayerStore, usePlayStore } from '@/features/clock/playStore';
import { TickStrip } from '@/features/clock/TickStrip';
import { toggleLoop, togglePlaying } from '@/features/commands/clockCommands';
import { hint } from '@/features/commands/everyCommand';
import { useProject, useShot } from '@/features/project/hooks';
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

/** Where we are, in every count at once; play, loop, and the whole shot to scrub on. */
export function Clock() {
  const project = useProject();
  const shot = useShot();
  const playing = useViewStore((state) => state.playing);
  const loop = useViewStore((state) => state.loop);
  const selection = useViewStore((state) => state.selection);
  const frame = useViewStore((state) => state.frame);
  if (!shot) return <footer className="h-12" />;
  const shown = Math.min(frame, shot.frames - 1);
  const counts = countsOfMoment(shown, project.rate, project.firstFrameNumber);
  const range = loop ?? { fromFrame: 0, toFrame: shot.frames - 1 };
  const digits = String(project.firstFrameNumber + shot.frames - 1).length;
  const loopHint = selection
    ? hint('Loop over the selection', 'loop')
    : loop
      ? hint('Loop over the whole shot again', 'loop')
      : hint('Select frames on the sheet, then loop over them', 'loop');
  return (
    <footer className="flex h-12 items-center gap-4 px-4">
      <Button
        kind="go"
        onClick={togglePlaying}
        aria-label={playing ? STOP : 'Play'}
        title={hint(playing ? STOP : 'Play', 'play')}
        className="w-10"
      >
        {playing ? <Pause size={14} fill="currentColor" /> : <Play size={14} fill="currentColor" />}
      </Button>
      <Button onClick={toggleLoop} disabled={!selection && !loop} title={loopHint} className="numbers whitespace-nowrap font-medium">
        {loop ? 'Loop' : 'All'} {range.fromFrame + project.firstFrameNumber}–{range.toFrame + project.firstFrameNumber}
      </Button>
      <div className="flex items-baseline gap-2" role="timer" aria-label="Now">
        <span
          className="inline-block text-right font-bold font-head text-3xl tabular-nums leading-none"
          style={{ minWidth: `${digits}ch` }}
          data-testid="frame-now"
        >
          {counts.frame}
        </span>
        <span className="numbers whitespace-nowrap text-soft text-xs">of {project.firstFrameNumber + shot.frames - 1}</span>
      </div>
      <span className="numbers hidden whitespace-nowrap text-xs sm:inline">{counts.seconds} s</span>
      <span className="numbers hidden whitespace-nowrap text-xs md:inline">{counts.timecode}</span>
      <span className="numbers hidden whitespace-nowrap text-xs lg:inline">{counts.footage}</span>
      <TickStrip />
      <SoundSwitch />
      <LateWords />
      <span className="numbers whitespace-nowrap text-xs" title={`${rateFraction(project.rate)} frames a second`}>
        {rateName(project.rate)} fps
      </span>
      <span className="hidden whitespace-nowrap text-soft text-xs xl:inline">
        shot {shot.code}, {plural(shot.frames, 'frame')}
      </span>
    </footer>
  );
}
