import type { Stage } from '@/features/path/stages';

/** A page of the help: what it is about, the stage it belongs to, and what it says. `[play]` stands for the shortcut of the command of that name. */
export type HelpPage = { readonly id: string; readonly stage: Stage | null; readonly title: string; readonly says: readonly string[] };

export const HELP_PAGES: readonly HelpPage[] = [
  {
    id: 'begin',
    stage: null,
    title: 'How it goes',
    says: [
      'A film goes along the path at the top: Plan, Draw, Check, Assemble, Hand over. Each stage shows its count, and the ticks between two stages are lime where both sides agree, rust where they don’t, and grey where there is nothing to compare yet.',
      'Every count — frames, seconds, timecode, feet — comes from one frame number and one exact rate. Nothing is counted twice in two ways.',
      'Everything you do is saved at once, first in this browser, then by the server; “Saved” is shown only for what the server has. [undo] takes back anything, [redo] does it again.',
      '[find] finds every command by its words, with its shortcut. [keys] lists all shortcuts and changes them. [help] opens this help where you are.',
    ],
  },
  {
    id: 'sheet',
    stage: 'plan',
    title: 'The sheet',
    says: [
      'Time runs down, a row a frame; each level has a column, the one in front first. A leaning tick stands on every frame a drawing is held. Keys are ringed, breakdowns underlined; what is planned and not drawn is dashed.',
      '[frame-next] and [frame-before] step a frame, [drawing-next] and [drawing-before] a drawing, [key-next] and [key-before] a key. [level-right] and [level-left] go to another level. [go-to] goes to a frame by number, seconds or timecode.',
      '1, 2 and 3 put the current drawing on ones, twos or threes; [length-any] asks for any length. Drag an exposure’s lower edge, or the exposure itself.',
      '[select-down] and the other arrow keys with it select a block over frames and levels; set it on a step, cycle it ([cycle]), ping-pong it ([there-and-back]), move it ([move]), copy it.',
      'What follows a changed length moves along (Push the rest) or keeps its frames and is covered (Cover the rest).',
      'Exposures are written 5*2 for drawing 5 held two frames, . for a blank, .*3 for three of them.',
    ],
  },
  {
    id: 'plan',
    stage: 'plan',
    title: 'Plan drawings, and move them',
    says: [
      '[plan-drawings] plans many drawings in one go: how many, how long each is held, which are keys; or typed as the sheet writes it.',
      'The plan board plays the plan before anything is drawn: cards with numbers, or a marker on a motion path that you draw.',
      'A timing chart lies between two keys and says where the in-betweens lie between them, as parts of the way. Put it on the sheet, or read it from the sheet.',
      'Another rate shows the film at 25, 30 or any rate before and after: keep the time, keep the counts, or read the same frames as another rate.',
      '[print] prints the sheet with its sound, [csv-out] saves it as a table, [csv-in] takes one back, difference by difference.',
    ],
  },
  {
    id: 'draw',
    stage: 'draw',
    title: 'Draw',
    says: [
      'Draw with a pen, a mouse or a finger; with Shift a stroke is a straight line. The brush has a size, hardness, smoothing and a tapering end.',
      '[new-drawing] makes a new drawing here. What you draw lies on the current level and frame; a held drawing is one drawing, however many frames show it.',
      'The onion skin shows the neighbours: the bracket on the sheet is how far it reaches. A drawing can be pinned, or left out of it.',
      'The wheel zooms, with Alt it turns the paper. [paper-mirror] mirrors the view, [paper-whole] fits the paper; [paper-alone] puts everything else aside, and brings it back.',
      'The bars between panels are dragged, or moved by arrow keys, to make them wider or narrower; Enter on a bar folds its panel, as do [fold-left] and [fold-right]. They stay as they are left.',
      '[bring-in], or a drop anywhere, brings in pictures, animated pictures, layered pictures, clips and sounds.',
    ],
  },
  {
    id: 'check',
    stage: 'check',
    title: 'Check',
    says: [
      '[play] plays at the true rate, by the clock of the sound where there is any, and says how many frames were late, and which.',
      'Findings are counts that don’t agree, pictures twice in a row, gaps and strays of one frame, flashes over the published limit, and what a destination would refuse. Each has its place and its fixes; several of a kind are fixed together.',
      'What is meant so is kept as intended, with a note why. It stays so while things move.',
      'The graphs show how far a level’s drawings travel, how their size drifts and how long each is held.',
    ],
  },
  {
    id: 'assemble',
    stage: 'assemble',
    title: 'Assemble the reel',
    says: [
      'Shots, clips and gaps lie on the reel in true proportion. Drag an item, its ends to trim it, with Alt to slip what it shows; while you drag it says every frame that moves.',
      'Numbers and keys do all of it too: [reel-next] chooses the next item, [reel-start] moves by number, [reel-trim-start] and [reel-trim-end] trim to the current frame, [reel-leave-out] takes the selected items off the reel.',
      'A clip of another rate keeps its time — which of its frames are shown twice or passed over is told — or comes frame for frame.',
      'Sounds of a shot move with it, those of the reel stay. The finish lies over the whole picture; each part of it is on or off for what is seen here, and for what leaves.',
    ],
  },
  {
    id: 'hand-over',
    stage: 'hand-over',
    title: 'Hand over',
    says: [
      'Choose what leaves — the reel, a range, the loop, items, shots or levels — and as what: a film with its sound, picture files, or a loop for the web.',
      'Every file that is written is opened again and counted: frames, rate, times, pictures, sound. The receipt holds what was asked beside what was counted, and says agrees or disagrees.',
      'A recipe saved by name is repeated with one press. Handovers wait in a queue and go on while you work.',
      'The timing leaves as a timeline, a list, words, sound and tables, and comes back held against the reel. The whole project leaves as one open file, and the drawings alone as files anyone can open.',
    ],
  },
  {
    id: 'counting',
    stage: 'hand-over',
    title: 'Count what came back',
    says: [
      'The counting desk ([counting-desk]) counts any film, sequence, loop or sound, whoever made it: frames, rate by its times, size, sound, repeats and their pattern, still and blank stretches, missing numbers. Drop files, ZIPs or a folder on it.',
      'Held against the reel, a shot, a package, a receipt or another file, one sentence says what is wrong: which frame is missing or there twice, from where on everything is late, which rate was read as which. Below it the frames stand beside each other, with strokes that lean where they part.',
      'What was found goes on the sheet as a note, or out as text; where the file holds longer or shorter as intended, the shot is made like it in one step. Beside it stands which destinations would refuse the file, and what an editing bench that nobody has set up would make of it: another rate, another order, transparency the other way, sound from another frame.',
      'The same counts run without the program, for scripts: npx lime-tick count.',
    ],
  },
  {
    id: 'past',
    stage: null,
    title: 'The past',
    says: [
      'Every change is kept, with when it was made and by whom. The past ([past], or a press on Saved) shows them as sittings and moments; any moment opens beside today: a frame of both, one sheet that marks where they part, and the counts.',
      'Take out a drawing, a level or a shot as it was, or go back to all of it: each is a step and can be undone. What was can also become a project of its own.',
      'Give a moment a name, as “before the retake”, and hold two named ones against each other. A single change of the past is undone by itself, whoever made it, as long as what came since allows it.',
    ],
  },
  {
    id: 'team',
    stage: null,
    title: 'Several people on one film',
    says: [
      'With a PostgreSQL server everybody runs Lime Tick on their own machine and works on one database; docs/team.md says how a small studio sets that up. What one draws is with the others within a second.',
      'People, at the upper right, shows who else is there and on which frame, and goes there. Say once who you are. Take a shot in hand to have others know that it is yours for now, and give it back; it locks nothing.',
    ],
  },
  {
    id: 'store',
    stage: null,
    title: 'The shelf and the store',
    says: [
      'A project’s menu on the shelf renames it, duplicates it, saves it as a package, shows its past, puts it away and deletes it for good, after saying what goes with it. Find and order stand above the projects.',
      'The store, below the shelf, says where everything lies, how much each project takes and what can be freed. Backups are made by themselves while you work, opened and read back; choose how often, how many, and another disk. npm run restore goes on from one, on any machine.',
      'Its health is there, too: versions, what is open, the last troubles, and one press copies it all for a report.',
    ],
  },
  {
    id: 'safe',
    stage: null,
    title: 'When something goes wrong',
    says: [
      'While the server doesn’t answer everything you do is kept in this browser and sent when it does; the word at the upper right says so. Closing the tab loses nothing.',
      'Two windows on one project see each other’s changes. What can’t be brought together is set aside, never thrown away, and can be looked at and put back.',
      'A picture, recording or clip that is missing is a finding with its name: bring that very file in again.',
      'A failed part of a screen leaves the rest working, and offers to try again.',
    ],
  },
];
