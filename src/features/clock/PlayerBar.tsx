'use client';
import { AudioLines, Feather, Hash, Maximize, Pause, Play, StepBack, StepForward } from 'lucide-react';
import type { ReactNode } from 'react';
import { useShallow } from 'zustand/react/shallow';
import { SPEEDS } from '@/core/time/playing';
import { playBackwards, playerCommands, playerHint, speedWords } from '@/features/clock/playerCommands';
import { usePlayerStore } from '@/features/clock/playStore';
import { toggleLoop, togglePlaying } from '@/features/commands/clockCommands';
import { goToFrame } from '@/features/project/navigation';
import { useViewStore } from '@/features/project/viewStore';
import { Button } from '@/ui/Button';
import { Choice } from '@/ui/Choice';

const MOST_ROUNDS = 99;
const SEVERAL = 3;

/** How often the range is played: for ever, once, or a number of times. */
function Rounds() {
  const rounds = usePlayerStore((state) => state.rounds);
  return (
    <span className="flex items-center gap-1 text-xs">
      <select
        aria-label="Plays"
        value={rounds === null ? 'ever' : rounds === 1 ? 'once' : 'several'}
        onChange={({ target }) =>
          usePlayerStore.setState({ rounds: target.value === 'ever' ? null : target.value === 'once' ? 1 : SEVERAL })
        }
        className="min-h-7 rounded-lg border border-line bg-sunk px-1.5 hover:border-edge"
      >
        <option value="ever">loop</option>
        <option value="once">once</option>
        <option value="several">n times</option>
      </select>
      {rounds !== null && rounds > 1 && (
        <input
          type="number"
          aria-label="How many times"
          min={2}
          max={MOST_ROUNDS}
          value={rounds}
          onChange={({ target }) => {
            const times = Math.round(target.valueAsNumber);
            if (times >= 2 && times <= MOST_ROUNDS) usePlayerStore.setState({ rounds: times });
          }}
          className="numbers min-h-7 w-12 rounded-lg border border-line bg-paper px-1.5"
        />
      )}
    </span>
  );
}

function Toggle({ id, on, words, children }: { id: string; on: boolean; words: string; children: ReactNode }) {
  const command = playerCommands.find((candidate) => candidate.id === id);
  return (
    <Button
      tight
      aria-label={words}
      aria-pressed={on}
      onClick={command?.run}
      title={playerHint(id, words)}
      className={on ? 'border-ink! bg-ink! text-paper' : ''}
    >
      {children}
    </Button>
  );
}

/** How the player plays: which way, how fast, how often, in which size, and what lies on the picture. */
export function PlayerBar() {
  const { speed, backwards, everySecond, burnIn, scrubSound } = usePlayerStore(
    useShallow(({ speed, backwards, everySecond, burnIn, scrubSound }) => ({ speed, backwards, everySecond, burnIn, scrubSound })),
  );
  const playing = useViewStore((state) => state.playing);
  const loop = useViewStore((state) => state.loop);
  const step = (frames: number) => {
    useViewStore.setState({ playing: false });
    goToFrame(useViewStore.getState().frame + frames);
  };
  const plays = playing && !backwards;
  return (
    <div role="toolbar" aria-label="Player" className="flex flex-wrap items-center gap-x-2.5 gap-y-1.5">
      <span className="flex gap-1">
        <Button tight aria-label="Frame before" title="Frame before" onClick={() => step(-1)}>
          <StepBack size={13} />
        </Button>
        <Button
          tight
          aria-pressed={playing && backwards}
          aria-label={playing && backwards ? 'Stop playing backwards' : 'Play backwards'}
          title={playerHint('play-backwards', 'Play backwards')}
          onClick={playBackwards}
        >
          {playing && backwards ? <Pause size={13} /> : <Play size={13} className="rotate-180" />}
        </Button>
        <Button
          tight
          aria-label={plays ? 'Stop playing' : 'Play forwards'}
          onClick={() => {
            if (!playing) usePlayerStore.setState({ backwards: false });
            togglePlaying();
          }}
        >
          {plays ? <Pause size={13} /> : <Play size={13} />}
        </Button>
        <Button tight aria-label="Frame after" title="Frame after" onClick={() => step(1)}>
          <StepForward size={13} />
        </Button>
      </span>
      <Choice
        label="Speed"
        value={`${speed.num}/${speed.den}`}
        options={SPEEDS.map((known) => ({ value: `${known.num}/${known.den}`, label: `${speedWords(known)}×` }))}
        onChange={(value) => {
          const next = SPEEDS.find((known) => `${known.num}/${known.den}` === value);
          if (next) usePlayerStore.setState({ speed: next });
        }}
      />
      <Rounds />
      {loop && (
        <Button tight onClick={toggleLoop}>
          Whole shot again
        </Button>
      )}
      <span className="ml-auto flex gap-1">
        <Toggle id="scrub-sound" on={scrubSound} words="Hear every frame that is stepped or scrubbed to">
          <AudioLines size={13} />
        </Toggle>
        <Toggle id="lighter" on={everySecond} words="Lighter: half size, every second frame">
          <Feather size={13} />
        </Toggle>
        <Toggle id="burn-in" on={burnIn} words="Counts large on the picture">
          <Hash size={13} />
        </Toggle>
        <Button
          tight
          aria-label="Full window"
          title={playerHint('full-window', 'Over the full window')}
          onClick={() => usePlayerStore.setState({ fullWindow: true })}
        >
          <Maximize size={13} />
        </Button>
      </span>
    </div>
  );
}
