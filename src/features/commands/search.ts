import type { Command } from '@/features/commands/command';
import { hindranceOf } from '@/features/commands/here';

/*
 * The finder runs what is at the top when Enter is pressed, so what is there must be what was asked for.
 * A word of the search finds a word of a command: the whole word, or one that means the same. The beginning of
 * a word finds it too, while one is still typing; that is a weak match, and nothing that takes something away is
 * chosen by it. Letters scattered over a command's words find nothing.
 */

/** Other words for what commands are called, by command; a name ending in * is the beginning of several. */
const SYNONYMS: Readonly<Record<string, string>> = {
  'save-now': 'save saved keep store backup',
  'stage-hand-over': 'export render output deliver film movie video mp4 webm png gif publish share send',
  'stage-plan': 'exposure schedule board',
  'stage-draw': 'paint canvas desk',
  'stage-check': 'errors faults problems validate review',
  'stage-assemble': 'edit reel sequence shots order',
  shelf: 'home projects open file close library',
  'bring-in': 'import load add open place insert image images picture pictures photo video clip sequence footage reference',
  'bring-sound': 'audio music voice wav recording import load',
  sounds: 'audio volume loudness gain mute trim level db',
  'sound-on': 'audio mute unmute volume speaker silence',
  rate: 'fps framerate rate speed frames second tempo',
  format: 'fps resolution canvas size dimensions width height aspect settings',
  keys: 'shortcuts shortcut hotkeys hotkey keyboard keybindings preferences settings options help',
  onion: 'light table lightbox ghost ghosting onionskin skin',
  'onion-by': 'light table ghost',
  pin: 'light table reference compare',
  'new-drawing': 'add frame cel',
  'new-key': 'add keyframe extreme pose',
  inbetween: 'inbetween tween between add breakdown',
  'role-key': 'keyframe extreme',
  'copy-drawing': 'duplicate clone',
  'copy-of': 'duplicate clone',
  'own-copy': 'independent unlink duplicate unique',
  'show-again': 'reuse repeat expose link instance again',
  blank: 'empty clear gap',
  'remove-exposure': 'delete exposure',
  'delete-drawing': 'remove drawing erase',
  'clear-drawing': 'erase empty wipe delete',
  'level-animated': 'layer level add create track',
  'level-still': 'layer level background add create',
  'level-guide': 'layer level reference rotoscope add create',
  'level-remove': 'layer delete',
  'level-lock': 'layer protect',
  'level-visible': 'layer hide show visibility eye',
  'level-alone': 'layer solo isolate',
  'level-move-left': 'layer order up front',
  'level-move-right': 'layer order down behind back',
  'shot-insert': 'scene add create',
  'shot-duplicate': 'scene copy clone',
  'shot-remove': 'scene delete',
  'reel-leave-out': 'remove delete take off clip shot',
  'rename-shot': 'rename name code title scene',
  'rename-level': 'rename name title layer',
  'rename-project': 'rename name title film project',
  print: 'pdf paper sheet export printer',
  'csv-out': 'export spreadsheet table sheet save',
  'csv-in': 'import spreadsheet table sheet load',
  eraser: 'erase rubber rub',
  brush: 'pencil pen draw line ink paint',
  fill: 'bucket paint flood',
  colour: 'eyedropper pipette pick color',
  part: 'lasso select selection move transform cut',
  undo: 'back revert',
  redo: 'again forward',
  'there-and-back': 'ping pong pingpong yoyo',
  cycle: 'repeat loop',
  loop: 'repeat range',
  play: 'preview watch',
  'full-window': 'fullscreen maximise maximize large',
  note: 'comment text dialogue',
  'paper-nearer': 'zoom in',
  'paper-further': 'zoom out',
  'paper-whole': 'zoom reset fit',
  'paper-mirror': 'flip horizontal',
  'go-to': 'jump seek timecode goto',
  find: 'search command palette',
};

/** Commands that take something away: a weak match never runs them. */
const TAKES_AWAY = new Set([
  'remove-exposure',
  'delete-drawing',
  'clear-drawing',
  'blank',
  'cut',
  'cut-frames',
  'trim',
  'clear-notes',
  'chart-remove',
  'level-remove',
  'shot-remove',
  'reel-leave-out',
]);

const wordsOf = (text: string): string[] => text.toLowerCase().match(/[\p{L}\p{N}]+/gu) ?? [];

/** How well a command is meant: by the beginning of words, by whole words, or by words of its own alone. */
export type Match = { readonly command: Command; readonly isStrong: boolean; readonly isOwn: boolean };

/** Shortest beginning of a word that finds it. */
const SHORTEST_BEGINNING = 2;

function scoreOf(command: Command, asked: readonly string[]): { score: number; isStrong: boolean; isOwn: boolean } | null {
  const own = wordsOf(command.words());
  const others = wordsOf(SYNONYMS[command.id] ?? '');
  let score = 0;
  let isStrong = true;
  for (const word of asked) {
    const begins = (each: string) => word.length >= SHORTEST_BEGINNING && each.startsWith(word);
    if (word.length < SHORTEST_BEGINNING) isStrong = false;
    if (own.includes(word)) score += own[0] === word ? 5 : 4;
    else if (others.includes(word)) score += 3 - others.indexOf(word) / 50;
    else if (own.some(begins)) {
      score += 2;
      isStrong = false;
    } else if (others.some(begins)) {
      score += 1;
      isStrong = false;
    } else return null;
  }
  if (!isStrong && TAKES_AWAY.has(command.id)) score -= 2;
  // Of two that hold all the words, the one with fewer others is meant.
  return { score: score - own.length / 100, isStrong, isOwn: asked.every((word) => own.includes(word)) };
}

/** The commands a search finds, the best first; all of them in their order when nothing is asked. */
export function findCommands(commands: readonly Command[], search: string): readonly Match[] {
  const asked = wordsOf(search);
  if (asked.length === 0) return commands.map((command) => ({ command, isStrong: false, isOwn: false }));
  return commands
    .flatMap((command) => {
      const found = scoreOf(command, asked);
      return found ? [{ command, ...found }] : [];
    })
    .sort((a, b) => Number(b.isStrong) - Number(a.isStrong) || b.score - a.score);
}

/** The command Enter runs without a choice; null when the search doesn't say clearly enough which is meant. */
export function chosenBySearch(matches: readonly Match[], search: string): Command | null {
  const [best] = matches;
  if (!best || wordsOf(search).length === 0 || hindranceOf(best.command)) return null;
  const isPlain = best.isOwn && wordsOf(search).length > 1;
  const others = matches.filter(
    ({ command, isStrong, isOwn }) => command !== best.command && isStrong && (isOwn || !isPlain) && TAKES_AWAY.has(command.id),
  );
  // Of several that take something away, which one is meant has to be said.
  if (best.isStrong) return TAKES_AWAY.has(best.command.id) && others.length > 0 ? null : best.command;
  return TAKES_AWAY.has(best.command.id) || wordsOf(search).some((word) => word.length < 3) ? null : best.command;
}
