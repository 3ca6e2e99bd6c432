/*
 * Words that several screens and sentences share, so that one thing has one word wherever it is read. A word that only one
 * screen has stands on that screen.
 */

export const CANCEL = 'Cancel';
export const STOP = 'Stop';
export const BRING_IN = 'Bring in';
export const GO_THERE = 'Go there';
export const BACK_TO_SHELF = 'Back to the shelf';

export const CURRENT_FRAME = 'The current frame';
export const FIRST_FRAME = 'The first frame';
export const SHOT_GROWS = 'The shot grows when it is too short';
export const NO_SHOT = 'This project has no shot: make one in Plan.';

/** A finding that a person has said is meant, as a command, as a state, and undone again. */
export const KEEP_AS_INTENDED = 'Keep as intended';
export const KEPT_AS_INTENDED = 'kept as intended';
export const REOPEN = 'Reopen';

/** A block forwards, then backwards. */
export const PING_PONG = 'Ping-pong';

/** What a level can be. */
export const LEVEL_KIND_NAMES = { animated: 'Animated', still: 'Still', guide: 'Guide' } as const;

const STEP_NAMES: Readonly<Record<number, string>> = { 1: 'on ones', 2: 'on twos', 3: 'on threes' };

/** The trade's word for exposures of so many frames each: `on twos`; past threes as `otherwise` says, `on 4s` unless told. */
export const stepName = (frames: number, otherwise = `on ${frames}s`): string => STEP_NAMES[frames] ?? otherwise;

/** Names, at most so many and then how many more there are: `4, 5, 6 and 3 more`. A single one more is named, too: it takes less room than saying so. */
export const someOf = (names: readonly string[], most: number): string =>
  names.length <= most + 1 ? names.join(', ') : `${names.slice(0, most).join(', ')} and ${names.length - most} more`;

/** A drawing by its level and number: `Line 4`; where the level's name ends in a number they are set apart, `Level 1 · 4`. */
export const drawingWords = (levelName: string, number: string): string => `${levelName}${/\d$/.test(levelName) ? ' · ' : ' '}${number}`;
