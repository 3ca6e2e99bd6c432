import { performance } from 'node:perf_hooks';
import sharp from 'sharp';
import type { Finish } from '@/core/document/finish';
import { finishPicture } from '@/core/finish/finishPicture';
import { print, quantile } from './figure';

/* The finish of one picture of 1280 × 720 on paper, a blur of 6 px and the picture laid over itself, beside an image library's blur of the same deviation. */
const [WIDTH, HEIGHT] = [1280, 720];
const [ROUNDS, WARM_ROUNDS, RUNS] = [12, 4, 3];

const FINISH: Finish = [
  { id: 'blur', kind: 'blur', deviationPx: 6, inPreview: true, inHandover: true },
  { id: 'over', kind: 'layOver', deviationPx: 6, mode: 'screen', opacityPercent: 35, inPreview: true, inHandover: true },
];

const picture = Uint8ClampedArray.from({ length: WIDTH * HEIGHT * 4 }, (_, at) => (at % 4 === 3 ? 255 : (at * 2_654_435_761) >>> 24));
const raw = { raw: { width: WIDTH, height: HEIGHT, channels: 4 as const } };

/** The middle of so many times one after another, after some that warm up. */
async function middle(work: () => unknown): Promise<number> {
  const times: number[] = [];
  for (let round = 0; round < ROUNDS + WARM_ROUNDS; round++) {
    const started = performance.now();
    await work();
    if (round >= WARM_ROUNDS) times.push(performance.now() - started);
  }
  return quantile(times, 0.5);
}

const finished = (finish: Finish) => () => finishPicture(picture.slice(), WIDTH, HEIGHT, finish, { isOpaque: true, shrink: 1 });
const blurredBySharp = () => sharp(Buffer.from(picture.buffer), raw).blur(6).raw().toBuffer();

for (let run = 0; run < RUNS; run++) {
  const against = await middle(blurredBySharp);
  for (const [name, finish] of [
    ['finish.picture', FINISH],
    ['finish.layOver', FINISH.slice(1)],
    ['finish.blur', FINISH.slice(0, 1)],
  ] as const) {
    const value = await middle(finished(finish));
    print({ name, value, unit: 'ms', against, ratio: value / against });
  }
}
