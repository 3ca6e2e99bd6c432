'use client';
import { Feather, Hash, Maximize, Pause, Play, StepBack, StepForward } from 'lucide-react';
import type { ReactNode } from 'react';
import { SPEEDS } from '@/core/sheet/playing';
import { toggleLoop, togglePlaying } from '@/features/acts/clockActs';
import { withKey } from '@/features/acts/keyStore';
import { playBackwards, playerActs, speedWords } from '@/features/clock/playerActs';
import { usePlayerStore } from '@/features/clock/playStore';
import { useViewStore } from '@/features/project/viewStore';
import { Button } from '@/ui/Button';
import { Choice } from '@/ui/Choice';

const ROUNDS = [
  { value: 'for ever', rounds: null },
  { value: 'once', rounds: 1 },
  { value: '3 times', rounds: 3 },
  { value: '10 times', rounds: 10 },
] as const;

function hintOf(id: string, words: string): string {
  const act = playerActs.find((candidate) => candidate.id === id);
  return act ? withKey(words, act) : words;
}

function Toggle({ id, on, words, children }: { id: string; on: boolean; words: string; children: ReactNode }) {
  const act = playerActs.find((candidate) => candidate.id === id);
  return (
    <Button
      tight
      aria-label={words}
      aria-pressed={on}
      onClick={act?.run}
      title={hintOf(id, words)}
      className={on ? 'border-ink! bg-ink! text-paper' : ''}
    >
      {children}
    </Button>
  );
}

/** How the player plays: which way, how fast, how often, in which size, and what lies on the picture. */
export function PlayerBar() {
  const { speed, backwards, rounds, everySecond, burnIn } = usePlayerStore();
  const playing = useViewStore((state) => state.playing);
  const loop = useViewStore((state) => state.loop);
  const step = (frames: number) => useViewStore.setState((state) => ({ frame: Math.max(0, state.frame + frames), playing: false }));
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
          title={hintOf('play-backwards', 'Play backwards')}
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
      <select
        aria-label="Plays"
        value={ROUNDS.find((entry) => entry.rounds === rounds)?.value}
        onChange={(event) =>
          usePlayerStore.setState({ rounds: ROUNDS.find((entry) => entry.value === event.target.value)?.rounds ?? null })
        }
        className="min-h-7 rounded-lg border border-line bg-sunk px-1.5 text-ink hover:border-edge"
      >
        {ROUNDS.map(({ value }) => (
          <option key={value} value={value}>
            {value}
          </option>
        ))}
      </select>
      {loop && (
        <Button tight onClick={toggleLoop}>
          Whole shot again
        </Button>
      )}
      <span className="ml-auto flex gap-1">
        <Toggle id="lighter" on={everySecond} words="Lighter: half size, every second frame">
          <Feather size={13} />
        </Toggle>
        <Toggle id="burn-in" on={burnIn} words="Counts large on the picture">
          <Hash size={13} />
        </Toggle>
        <Button
          tight
          aria-label="Full window"
          title={hintOf('full-window', 'Over the full window')}
          onClick={() => usePlayerStore.setState({ fullWindow: true })}
        >
          <Maximize size={13} />
        </Button>
      </span>
    </div>
  );
}
