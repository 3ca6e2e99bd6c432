import { PAINT, Pen, type Point, placed, points } from '@/demo/pen';

/** Where the clothesline hangs from, left and right. */
const LEFT_POST: Point = [168, 176];
const RIGHT_POST: Point = [1118, 168];

function tuft(pen: Pen, x: number, y: number): void {
  pen
    .line(
      [
        [x, y],
        [x - 6, y - 18],
      ],
      { width: 4, colour: PAINT.grassDark },
    )
    .line(
      [
        [x + 6, y],
        [x + 8, y - 24],
      ],
      { width: 4, colour: PAINT.grassDark },
    )
    .line(
      [
        [x + 12, y],
        [x + 22, y - 16],
      ],
      { width: 4, colour: PAINT.grassDark },
    );
}

/** The yard: sky, a hill, grass, a fence, two posts. */
export function yard(): Pen {
  const pen = new Pen(11);
  pen.box(0, 0, 1280, 720, PAINT.sky);
  pen.area(points('210,96 270,70 340,84 400,66 452,98 400,118 280,120'), PAINT.cloud);
  pen.area(points('830,60 900,40 960,58 1012,48 1040,76 960,92 860,88'), PAINT.cloud);
  pen.area(points('-40,470 180,392 470,430 760,372 1040,418 1330,376 1330,760 -40,760'), PAINT.farHill);
  pen.line(points('-10,466 180,394 470,431 760,373 1040,419 1290,380'), { width: 4, colour: PAINT.grassDark });
  for (let x = 20; x < 1280; x += 74) {
    const top = 448 + (x % 5);
    pen.shape(
      [
        [x, top],
        [x + 13, top - 13],
        [x + 27, top],
        [x + 26, 556],
        [x + 1, 556],
      ],
      PAINT.cream,
      3.5,
    );
  }
  pen
    .line(points('-10,484 640,478 1290,486'), { width: 7, colour: PAINT.woodDark })
    .line(points('-10,524 640,528 1290,522'), { width: 7, colour: PAINT.woodDark });
  pen.area(points('-40,556 300,540 700,550 1320,536 1320,760 -40,760'), PAINT.grass);
  pen.line(points('-10,556 300,541 700,551 1290,538'), { width: 5 });
  for (const [x, y] of [LEFT_POST, RIGHT_POST]) {
    pen.shape(
      [
        [x - 11, y - 26],
        [x + 11, y - 26],
        [x + 14, 604],
        [x - 14, 604],
      ],
      PAINT.wood,
      6,
    );
    pen.shape(
      [
        [x - 46, y - 8],
        [x + 46, y - 12],
        [x + 46, y + 6],
        [x - 46, y + 10],
      ],
      PAINT.wood,
      5,
    );
  }
  for (const [x, y] of [
    [70, 640],
    [260, 676],
    [452, 622],
    [900, 664],
    [1190, 634],
    [1040, 700],
  ] as const)
    tuft(pen, x, y);
  pen
    .shape(points('985,596 1100,592 1086,668 1000,670'), PAINT.straw, 6)
    .line(points('990,616 1096,612'), { width: 4 })
    .line(points('994,640 1091,637'), { width: 4 });
  pen.shape(points('1002,596 1020,572 1050,584 1078,570 1090,592'), PAINT.cream, 5);
  return pen;
}

/** Sky, hills and grass alone: what a snail passes. */
export function lane(): Pen {
  const pen = new Pen(12);
  pen.box(0, 0, 1280, 720, PAINT.sky);
  pen.area(points('700,96 770,70 850,86 910,66 960,98 900,120 780,120'), PAINT.cloud);
  pen.area(points('-40,410 260,320 600,372 900,300 1330,366 1330,760 -40,760'), PAINT.farHill);
  pen.line(points('-10,402 260,321 600,373 900,301 1290,360'), { width: 4, colour: PAINT.grassDark });
  pen.area(points('-40,560 1320,556 1320,760 -40,760'), PAINT.grass);
  pen.line(points('-10,560 640,558 1290,557'), { width: 5 });
  return pen;
}

/** Height of the rope at `x`, for a phase of the wind from 0 to 1. */
export function ropeHeight(x: number, phase: number): number {
  const part = (x - LEFT_POST[0]) / (RIGHT_POST[0] - LEFT_POST[0]);
  const sag = 74 * 4 * part * (1 - part);
  return (
    LEFT_POST[1] + (RIGHT_POST[1] - LEFT_POST[1]) * part + sag + 9 * Math.sin(2 * Math.PI * (phase + part * 1.5)) * Math.sin(Math.PI * part)
  );
}

/** A cloth hanging from the rope between two places, blown about. */
function cloth(pen: Pen, fromX: number, toX: number, drop: number, phase: number, colour: string): Point[] {
  const wind = (y: number, shift: number) => 26 * (y / drop) * Math.sin(2 * Math.PI * (phase + shift - y / (drop * 1.6))) + 18 * (y / drop);
  const left = [0.25, 0.5, 0.75, 1].map((part): Point => [fromX + wind(drop * part, 0), ropeHeight(fromX, phase) + drop * part]);
  const right = [0.25, 0.5, 0.75, 1].map((part): Point => [toX + wind(drop * part, 0.12), ropeHeight(toX, phase) + drop * part]);
  const outline: Point[] = [
    [fromX, ropeHeight(fromX, phase)],
    ...left,
    [(fromX + toX) / 2 + wind(drop, 0.06), ropeHeight((fromX + toX) / 2, phase) + drop + 8],
    ...right.reverse(),
    [toX, ropeHeight(toX, phase)],
    [(fromX + toX) / 2, ropeHeight((fromX + toX) / 2, phase) + 3],
  ];
  pen.shape(outline, colour, 5.5);
  return outline;
}

/** Drawing `index` (from 0) of the waving line: rope, a towel, a shirt; a cycle of six. */
export function wavingLine(index: number): Pen {
  const phase = index / 6;
  const pen = new Pen(100 + index);
  const xs = [168, 260, 380, 500, 640, 780, 900, 1020, 1118];
  pen.line(
    xs.map((x): Point => [x, ropeHeight(x, phase)]),
    { width: 5 },
  );
  const towel = cloth(pen, 272, 452, 178, phase, PAINT.pond);
  const [a, b] = [towel[3] as Point, towel[7] as Point];
  pen.line([a, [(a[0] + b[0]) / 2, (a[1] + b[1]) / 2 + 4], b], { width: 7, colour: PAINT.cream });
  cloth(pen, 830, 974, 150, phase + 0.35, PAINT.straw);
  const sway = 14 * Math.sin(2 * Math.PI * phase);
  for (const [x, side] of [
    [830, -1],
    [974, 1],
  ] as const) {
    const y = ropeHeight(x, phase);
    pen.shape(
      [
        [x, y],
        [x + side * 58 + sway, y + 58],
        [x + side * 38 + sway, y + 88],
        [x + side * 4, y + 52],
      ],
      PAINT.straw,
      5,
    );
  }
  for (const x of [280, 444, 838, 966]) {
    const y = ropeHeight(x, phase);
    pen.shape(
      [
        [x - 5, y - 14],
        [x + 5, y - 14],
        [x + 6, y + 12],
        [x - 6, y + 12],
      ],
      PAINT.wood,
      3.5,
    );
  }
  return pen;
}

/** Pebbles and tufts passing by: drawing `index` of four, each a quarter of their distance further; a seamless cycle. */
export function passingGround(index: number): Pen {
  const pen = new Pen(140);
  const distance = 320;
  for (let x = -distance - (index * distance) / 4; x < 1280 + distance; x += distance) {
    pen.shape(
      [
        [x + 40, 640],
        [x + 66, 626],
        [x + 92, 636],
        [x + 86, 652],
        [x + 48, 654],
      ],
      PAINT.cream,
      4,
    );
    tuft(pen, x + 170, 668);
    pen.shape(placed(points('-12,0 0,-9 13,0 0,7'), [x + 262, 612]), PAINT.cream, 3.5);
  }
  return pen;
}

/** A wind arrow sheet of the guide clip. */
export function windStudy(index: number): Pen {
  const pen = new Pen(160 + index);
  for (let row = 0; row < 3; row++) {
    const y = 260 + row * 90 + 12 * Math.sin(index + row);
    const x = 360 + index * 60 + row * 40;
    pen.line(
      [
        [x, y],
        [x + 120, y - 26],
        [x + 240, y + 8],
        [x + 330, y - 10],
      ],
      { width: 5, colour: PAINT.pond },
    );
    pen.line(
      [
        [x + 300, y - 34],
        [x + 332, y - 10],
        [x + 304, y + 14],
      ],
      { width: 5, colour: PAINT.pond },
    );
  }
  return pen;
}
