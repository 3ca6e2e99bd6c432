import type { Stage } from '@/features/path/stages';

/** A card of the tour through the demo: where it takes one, and what it says; `[play]` stands for the shortcut of that command. */
export type TourCard = {
  readonly title: string;
  readonly says: string;
  readonly stage: Stage;
  /** The shot that is opened, and the frame by the number it is shown with. */
  readonly at: { readonly shot: string; readonly frame: number } | null;
};

/** The project the tour goes through. */
export const TOUR_PROJECT = 'washday';

export const TOUR: readonly TourCard[] = [
  {
    title: 'A film of 13 seconds',
    says: 'Washday has three shots and a clip, 312 frames at 24 a second. The path above shows the five stages with their counts; the ticks between two are lime where they agree.',
    stage: 'plan',
    at: { shot: '010', frame: 1 },
  },
  {
    title: 'The sheet',
    says: 'Shot 020: a row a frame, a column a level. Press the arrow keys, with Shift to go by drawings. Press 1, 2 or 3 on a drawing to put it on ones, twos or threes, and [undo] to undo it.',
    stage: 'plan',
    at: { shot: '020', frame: 27 },
  },
  {
    title: 'The plan moves',
    says: '[play] plays the plan at the true rate before it is drawn. Below it is the timing chart between two keys; drag a tick, and see on the board where the in-between goes.',
    stage: 'plan',
    at: { shot: '020', frame: 28 },
  },
  {
    title: 'Draw what is missing',
    says: 'Sock 13 is planned and empty. Draw it: the onion skin shows the drawings before and after. Hold [flip] to flip between them. Or watch it drawn by a recorded pen: [watch-drawn].',
    stage: 'draw',
    at: { shot: '020', frame: 32 },
  },
  {
    title: 'What is wrong',
    says: 'Three faults are left in shot 020 for you: one picture under two numbers, a gap of one frame, a stray among twos. Go there, fix one, and see the ticks above turn.',
    stage: 'check',
    at: { shot: '020', frame: 1 },
  },
  {
    title: 'The reel',
    says: 'All shots and a clip of another rate, in true proportion. Drag an item or its ends: you see every frame that moves before you let go.',
    stage: 'assemble',
    at: null,
  },
  {
    title: 'Handed over, and counted',
    says: 'Choose MP4 and press the lime button. The file is written, opened again and counted; the receipt says what was asked beside what is in it. 312 frames: it agrees.',
    stage: 'hand-over',
    at: null,
  },
  {
    title: 'That was it',
    says: '[help] opens the help, [find] finds any command. Go to the shelf and start a project of your own, or keep exploring here: everything can be undone.',
    stage: 'hand-over',
    at: null,
  },
];
