import { SPEEDS, type Speed } from '@/core/time/playing';
import { usePlayerStore } from '@/features/clock/playStore';
import { togglePlaying } from '@/features/commands/clockCommands';
import type { Command } from '@/features/commands/command';
import { withKey } from '@/features/commands/keyStore';
import { useViewStore } from '@/features/project/viewStore';

const group = 'Player';

const sameSpeed = (a: Speed, b: Speed) => a.num === b.num && a.den === b.den;

const FRACTIONS: Readonly<Record<string, string>> = { '1/4': '¼', '1/2': '½' };

/** A speed as it is said: `¼`, `½`, `1`, `2` times. */
export const speedWords = ({ num, den }: Speed): string => FRACTIONS[`${num}/${den}`] ?? String(num / den);

function changeSpeed(direction: -1 | 1): void {
  const { speed } = usePlayerStore.getState();
  const next = SPEEDS[SPEEDS.findIndex((known) => sameSpeed(known, speed)) + direction];
  if (next) usePlayerStore.setState({ speed: next });
}

/** Plays backwards; once more stops. */
export function playBackwards(): void {
  const { playing } = useViewStore.getState();
  const { backwards } = usePlayerStore.getState();
  if (playing && backwards) togglePlaying();
  else {
    usePlayerStore.setState({ backwards: true });
    useViewStore.setState({ playing: true });
  }
}

/** Sound on or off; what plays goes on from where it is with it or without it. */
export const toggleSound = (): void => usePlayerStore.setState(({ soundOn }) => ({ soundOn: !soundOn }));

const hindrance = () => (usePlayerStore.getState().isShown ? null : 'it is part of Check');

/** How the large player plays, and what it shows. */
export const playerCommands: readonly Command[] = [
  { id: 'play-backwards', group, words: () => 'Play backwards', keys: ['Shift+Space'], hindrance, run: playBackwards },
  {
    id: 'sound-on',
    group,
    words: () => (usePlayerStore.getState().soundOn ? 'Sound off' : 'Sound on'),
    keys: ['Alt+A'],
    run: toggleSound,
  },
  {
    id: 'scrub-sound',
    group,
    words: () => (usePlayerStore.getState().scrubSound ? 'Step and scrub silently' : 'Hear every frame that is stepped or scrubbed to'),
    keys: ['Alt+Shift+A'],
    run: () => usePlayerStore.setState(({ scrubSound }) => ({ scrubSound: !scrubSound })),
  },
  { id: 'slower', group, words: () => 'Play slower', keys: ['Alt+-'], hindrance, run: () => changeSpeed(-1) },
  { id: 'faster', group, words: () => 'Play faster', keys: ['Alt+='], hindrance, run: () => changeSpeed(1) },
  {
    id: 'lighter',
    group,
    words: () => (usePlayerStore.getState().everySecond ? 'Play every frame in full size' : 'Play lighter: half size, every second frame'),
    keys: ['Alt+K'],
    hindrance,
    run: () => usePlayerStore.setState(({ everySecond }) => ({ everySecond: !everySecond })),
  },
  {
    id: 'burn-in',
    group,
    words: () => (usePlayerStore.getState().burnIn ? 'Hide the counts on the picture' : 'Show the counts large on the picture'),
    keys: ['Alt+U'],
    hindrance,
    run: () => usePlayerStore.setState(({ burnIn }) => ({ burnIn: !burnIn })),
  },
  {
    id: 'full-window',
    group,
    words: () => (usePlayerStore.getState().fullWindow ? 'Leave the full window' : 'Player over the full window'),
    keys: ['Alt+W'],
    hindrance,
    run: () => usePlayerStore.setState(({ fullWindow }) => ({ fullWindow: !fullWindow })),
  },
];

/** Words with the key of one of these commands behind them, for a hint. */
export function playerHint(id: string, words: string): string {
  const command = playerCommands.find((candidate) => candidate.id === id);
  return command ? withKey(words, command) : words;
}
