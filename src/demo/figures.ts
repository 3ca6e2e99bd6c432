import { PAINT, Pen, type Point, placed, points } from '@/demo/pen';

/** How a sock lies on the page: its middle, turn in radians, and stretch along it (above 1 longer and thinner). */
export type SockPose = { readonly at: Point; readonly turn: number; readonly stretch: number };

const SOCK: readonly Point[] = points('-36,-96 36,-98 37,-30 40,22 82,44 104,66 92,90 40,96 -18,92 -44,62 -38,10 -37,-40');
const TOE: readonly Point[] = points('70,38 104,64 92,90 56,95 60,66');
const HEEL: readonly Point[] = points('-40,40 -12,56 -8,91 -30,84 -45,62');

/** A line of a figure: through which points, how thick and of which colour. */
export type FigureLine = { readonly points: readonly Point[]; readonly width: number; readonly colour: string; readonly closed: boolean };

const putSock =
  (pose: SockPose) =>
  (points: readonly Point[]): Point[] =>
    placed(points, pose.at, pose.turn, 1 / Math.sqrt(pose.stretch), pose.stretch);

const STRIPES_Y = [-72, -44] as const;
const stripe = (y: number): readonly Point[] => [
  [-34, y],
  [0, y + 4],
  [34, y],
];

/** The lines of a sock in the order they are drawn: its outline, stripes, toe and heel. */
export function sockLines(pose: SockPose): readonly FigureLine[] {
  const put = putSock(pose);
  const line = (points: readonly Point[], width: number, colour: string, closed: boolean) => ({
    points: put(points),
    width,
    colour,
    closed,
  });
  return [
    line(SOCK, 7, PAINT.ink, true),
    ...STRIPES_Y.map((y) => line(stripe(y), 10, PAINT.brick, false)),
    line(TOE, 5, PAINT.brick, true),
    line(HEEL, 5, PAINT.brick, true),
  ];
}

/** The sock, with its stripes, toe and heel. */
export function sock(pose: SockPose, seed: number, pen = new Pen(seed)): Pen {
  const put = putSock(pose);
  pen.area(put(SOCK), PAINT.cream).area(put(TOE), PAINT.brick).area(put(HEEL), PAINT.brick);
  for (const y of STRIPES_Y) pen.line(put(stripe(y)), { width: 10, colour: PAINT.brick });
  return pen.line(put(SOCK), { width: 7, closed: true });
}

/** A clothes peg at a place, turned; `open` from 0 to 1 parts its legs. */
export function peg(at: Point, turn: number, open: number, seed: number, pen = new Pen(seed)): Pen {
  const leg = (side: 1 | -1) =>
    placed(
      [
        [side * 2, -24],
        [side * 9, -22],
        [side * (7 + open * 10), 22],
        [side * (1 + open * 8), 24],
      ],
      at,
      turn,
    );
  pen.shape(leg(-1), PAINT.wood, 4).shape(leg(1), PAINT.wood, 4);
  return pen.line(placed(points('-8,-6 0,-9 8,-6'), at, turn), { width: 4, colour: PAINT.woodDark });
}

/** The snail with the sock on its back: `phase` of its crawl from 0 to 1, `look` lifts its head. */
export function snail(phase: number, look: number, seed: number): Pen {
  const pen = new Pen(seed);
  const crawl = Math.sin(2 * Math.PI * phase);
  const [x, y] = [560, 568];
  const headX = x + 236 + 22 * crawl;
  const headY = y - 66 - 26 * look;
  pen.shape(
    [
      [x - 190 + 20 * crawl, y + 20],
      [x - 120, y - 6 - 8 * crawl],
      [x + 60, y - 14],
      [x + 160, y - 30],
      [headX - 26, headY - 4],
      [headX + 24, headY - 10],
      [headX + 34, headY + 24],
      [x + 214, y + 4],
      [x + 180, y + 24],
    ],
    PAINT.snail,
    7,
  );
  for (const [side, lean] of [
    [-1, 0.2],
    [1, 0.5],
  ] as const) {
    const [tipX, tipY] = [headX + side * 16 + 20 * lean - 8 * crawl, headY - 62 - 10 * look];
    pen.line(
      [
        [headX + side * 10, headY - 6],
        [headX + side * 13 + 6, headY - 34],
        [tipX, tipY],
      ],
      { width: 6 },
    );
    pen
      .shape(placed(points('-9,0 0,-9 9,0 0,9'), [tipX, tipY - 4]), PAINT.cream, 4)
      .area(placed(points('-3,0 0,-3 4,0 0,4'), [tipX + 2, tipY - 4]), PAINT.ink);
  }
  pen.line(
    [
      [headX + 8, headY + 12],
      [headX + 20, headY + 16],
      [headX + 30, headY + 8],
    ],
    { width: 4 },
  );
  const lift = 6 * crawl;
  const centre: Point = [x - 20, y - 92 + lift];
  pen.shape(
    Array.from(
      { length: 10 },
      (_, index): Point => [centre[0] + 108 * Math.cos((index * Math.PI) / 5), centre[1] + 92 * Math.sin((index * Math.PI) / 5)],
    ),
    PAINT.shell,
    7,
  );
  pen.line(
    Array.from({ length: 16 }, (_, index): Point => {
      const turn = (index * Math.PI) / 4;
      const reach = 84 - index * 5;
      return [centre[0] + reach * Math.cos(turn), centre[1] + reach * 0.86 * Math.sin(turn)];
    }),
    { width: 5 },
  );
  return sock({ at: [x - 44, y - 208 + lift], turn: -1.35 + 0.05 * crawl, stretch: 0.95 }, seed + 7, pen);
}

/** A quick study of the snail, for the guide clip. */
export function snailStudy(phase: number, seed: number): Pen {
  const pen = new Pen(seed);
  const crawl = 26 * Math.sin(2 * Math.PI * phase);
  pen.line(
    [
      [380 + crawl, 590],
      [470, 560],
      [640, 552],
      [780 + crawl, 540],
      [826 + crawl, 500],
    ],
    { width: 5, colour: PAINT.pond },
  );
  return pen.line(points('430,560 450,440 560,400 650,460 640,552'), { width: 5, colour: PAINT.pond });
}

/** A kettle with its lid lifted by `lift` pixels and `puffs` clouds of steam. */
export function kettle(lift: number, puffs: number, seed: number): Pen {
  const pen = new Pen(seed);
  pen.shape(points('450,560 430,450 480,350 640,322 800,350 850,450 830,560 640,580'), PAINT.pond, 8);
  pen.shape(points('842,440 920,380 960,330 984,346 930,440 846,500'), PAINT.pond, 8);
  pen.line(points('470,370 440,220 640,160 840,220 812,372'), { width: 18 });
  pen.shape(
    [
      [530, 338 - lift],
      [560, 302 - lift],
      [720, 302 - lift],
      [750, 338 - lift],
      [640, 350 - lift],
    ],
    PAINT.straw,
    7,
  );
  pen.shape(placed(points('-18,0 0,-20 18,0 0,12'), [640, 288 - lift]), PAINT.brick, 6);
  for (let puff = 0; puff < puffs; puff++)
    pen
      .area(placed(points('-30,0 0,-26 34,-4 8,24'), [1000 + puff * 34, 300 - puff * 62], 0, 1 + puff * 0.3, 1 + puff * 0.3), PAINT.cloud)
      .line(placed(points('-30,0 0,-26 34,-4 8,24'), [1000 + puff * 34, 300 - puff * 62], 0, 1 + puff * 0.3, 1 + puff * 0.3), {
        width: 4,
        closed: true,
      });
  return pen;
}
