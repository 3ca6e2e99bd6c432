import type { PathPoint } from '@/core/document/timingChart';
import type { ChartPlan } from '@/demo/chartPlan';
import { peg, type SockPose, sock } from '@/demo/figures';
import type { Pen, Point } from '@/demo/pen';
import { ropeHeight } from '@/demo/scenery';

const HANG_X = 640;
const HANG_Y = ropeHeight(HANG_X, 0);
const GROUND_Y = 560;

/** A sock hanging from the line, leaning by an angle. */
const hanging = (turn: number): SockPose => ({ at: [HANG_X - Math.sin(turn) * 96, HANG_Y + Math.cos(turn) * 98], turn, stretch: 1 });

/** A sock in the air: how far down it is, from 0 at the line to 1 on the ground. */
const falling = (part: number, turn: number, stretch: number): SockPose => ({
  at: [HANG_X + 26 * part, HANG_Y + 98 + (GROUND_Y - 44 - HANG_Y - 98) * part],
  turn,
  stretch,
});

const lying = (turn: number, stretch: number, sink = 0): SockPose => ({ at: [HANG_X + 28, GROUND_Y - 30 + sink], turn, stretch });

/** Poses of the sock's drawings, by number. 21 is left the same as 20; 13 and 25 are left undrawn. */
const POSES: Readonly<Record<string, SockPose>> = {
  1: hanging(-0.16),
  2: hanging(-0.06),
  3: hanging(0.08),
  4: hanging(0.18),
  5: hanging(0.07),
  6: hanging(-0.07),
  7: hanging(-0.2),
  8: { ...hanging(-0.28), stretch: 1.12 },
  9: falling(0.02, -0.22, 1.05),
  10: falling(0.08, -0.1, 1.1),
  11: falling(0.18, 0.06, 1.16),
  12: falling(0.32, 0.26, 1.2),
  13: falling(0.48, 0.5, 1.22),
  14: falling(0.65, 0.78, 1.24),
  15: falling(0.82, 1.08, 1.24),
  16: falling(0.95, 1.3, 1.16),
  17: lying(1.5, 0.72, 20),
  18: lying(1.44, 1.12, -34),
  19: lying(1.5, 1.02, -22),
  20: lying(1.56, 0.9, 6),
  22: lying(1.52, 1.04, -8),
  23: lying(1.54, 1.0, -3),
  24: lying(1.56, 0.96, 3),
  25: lying(1.55, 1.01, -1),
  26: lying(1.55, 0.99, 1),
  27: lying(1.56, 0.98, 2),
};

/** How the sock is exposed: 96 frames, with a stray one among twos (24) and one picture under two numbers (20, 21). */
export const SOCK_EXPOSURES =
  '1*6 2*2 3*2 4*6 5*2 6*2 7*4 8*2 9*2 10 11 12 13 14 15 16 17*2 18*2 19*2 20*2 21*2 22*2 23*2 24 25*2 26*2 27*42';
export const SOCK_KEYS = ['1', '4', '7', '9', '17', '27'];
export const SOCK_BREAKDOWNS = ['8', '14', '18'];
export const SOCK_UNDRAWN = ['13', '25'];

/** Where the sock is on each drawing, as a way from one to another. */
const wayOf = (...numbers: readonly number[]): readonly PathPoint[] =>
  numbers.map((number) => {
    const [x, y] = POSES[String(number)]?.at ?? [0, 0];
    return { x: Math.round(x), y: Math.round(y) };
  });

/** The sock's charts: two swings slow at both ends, the fall slow out of the line, then into the grass. */
export const SOCK_CHARTS: readonly ChartPlan[] = [
  { from: '1', to: '4', shape: 'halvesBoth', between: ['2', '3'], path: wayOf(1, 2, 3, 4) },
  { from: '4', to: '7', shape: 'halvesBoth', between: ['5', '6'], path: wayOf(4, 5, 6, 7) },
  { from: '9', to: '14', shape: 'countOut', between: ['10', '11', '12', '13'], path: wayOf(9, 10, 11, 12, 13, 14) },
  { from: '14', to: '17', shape: 'halvesSecond', between: ['15', '16'], path: wayOf(14, 15, 16, 17) },
];

/** How the sock lies on the drawing of a number. */
export function sockPose(number: string): SockPose {
  const pose = POSES[number === '21' ? '20' : number];
  if (!pose) throw new Error(`There is no pose for sock ${number}.`);
  return pose;
}

/** The sock's drawing of a number. */
export function sockDrawing(number: string): Pen {
  return sock(sockPose(number), 200 + Number(number === '21' ? '20' : number));
}

/** Where the two pegs are: one stays on the line, the other pops off and tumbles to the grass. */
const TUMBLE: readonly { at: Point; turn: number; open: number }[] = [
  { at: [HANG_X + 18, HANG_Y - 2], turn: 0, open: 0 },
  { at: [HANG_X + 22, HANG_Y - 14], turn: 0.3, open: 0.5 },
  { at: [HANG_X + 44, HANG_Y - 62], turn: 1.2, open: 1 },
  { at: [HANG_X + 74, HANG_Y - 92], turn: 2.4, open: 0.8 },
  { at: [HANG_X + 104, HANG_Y - 70], turn: 3.4, open: 0.6 },
  { at: [HANG_X + 130, HANG_Y - 10], turn: 4.2, open: 0.6 },
  { at: [HANG_X + 156, HANG_Y + 110], turn: 5.4, open: 0.6 },
  { at: [HANG_X + 178, GROUND_Y + 8], turn: 6.6, open: 0.4 },
  { at: [HANG_X + 196, GROUND_Y - 34], turn: 7.4, open: 0.3 },
  { at: [HANG_X + 212, GROUND_Y - 12], turn: 7.7, open: 0.3 },
  { at: [HANG_X + 224, GROUND_Y + 12], turn: 7.9, open: 0.2 },
  { at: [HANG_X + 228, GROUND_Y + 16], turn: 7.85, open: 0.2 },
];

/** How the pegs are exposed: 96 frames, with a gap of one frame on 37. */
export const PEG_EXPOSURES = '1*24 2*2 3*2 4*2 5 6 7*2 8*2 . 9*2 10*2 11*2 12*53';
export const PEG_KEYS = ['1', '4', '8', '12'];
export const PEG_UNDRAWN = ['11'];

/** The peg's chart: even, over the top of its tumble. */
export const PEG_CHARTS: readonly ChartPlan[] = [
  {
    from: '4',
    to: '8',
    shape: 'even',
    between: ['5', '6', '7'],
    path: TUMBLE.slice(3, 8).map(({ at: [x, y] }) => ({ x: Math.round(x), y: Math.round(y) })),
  },
];

/** The pegs' drawing of a number. */
export function pegDrawing(number: string): Pen {
  const loose = TUMBLE[Number(number) - 1];
  if (!loose) throw new Error(`There is no place for pegs ${number}.`);
  const pen = peg([HANG_X - 20, HANG_Y - 2], 0, 0, 300 + Number(number));
  return peg(loose.at, loose.turn, loose.open, 0, pen);
}
