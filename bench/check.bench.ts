import pixelmatch from 'pixelmatch';
import sharp from 'sharp';
import { type Inspection, Inspector } from '../src/core/analysis/inspector';
import { type CheckedAgainst, checkProject } from '../src/core/check/check';
import { type Digest, type Drawing, type Exposure, newLevel, type Project } from '../src/core/document/model';
import { newProject } from '../src/core/document/newProject';
import { applyStep } from '../src/core/edit/table';
import { mustBeDone } from '../src/core/outcome';
import { planOfReel } from '../src/core/render/renderPlan';
import { AGAINST_NOTHING } from '../src/core/testing/checking';
import { print, quantile } from './figure';

/*
 * All rules over a shot of 1,530 frames with 4 levels and 200 drawings at 1280 × 720, from pixels in memory; beside
 * it, in the same run and on the same pixels, every frame held against the one before with an image comparison.
 * Both leave out what the other would need as well: unpacking files, and laying pictures over each other.
 */
const SIZE = { width: 1280, height: 720 };
const FRAMES = 1530;
const LEVELS = 4;
const DRAWINGS = 50;

const pixels = new Map<Digest, Uint8ClampedArray>();
/** A figure of filled shapes with a line, going round a little from drawing to drawing. */
function figureSvg(index: number, level: number): string {
  const turn = (index / DRAWINGS) * 2 * Math.PI;
  const [x, y] = [260 + level * 250 + Math.cos(turn) * 90, 360 + Math.sin(turn) * 120];
  const lean = Math.sin(turn + level) * 30;
  return `<svg xmlns="http://www.w3.org/2000/svg" width="${SIZE.width}" height="${SIZE.height}">
    <ellipse cx="${x}" cy="${y}" rx="80" ry="130" transform="rotate(${lean} ${x} ${y})" fill="hsl(${level * 80} 50% 60%)" stroke="#1d2a23" stroke-width="7"/>
    <circle cx="${x + lean}" cy="${y - 150}" r="60" fill="#f6e7d0" stroke="#1d2a23" stroke-width="7"/>
    <path d="M${x} ${y + 100} q${lean} 80 -30 160 M${x} ${y + 100} q${-lean} 80 40 160" fill="none" stroke="#1d2a23" stroke-width="9"/></svg>`;
}

for (let level = 0; level < LEVELS; level++)
  for (let index = 0; index < DRAWINGS; index++) {
    const { data } = await sharp(Buffer.from(figureSvg(index, level)))
      .ensureAlpha()
      .raw()
      .toBuffer({ resolveWithObject: true });
    pixels.set(digestOf(level, index), new Uint8ClampedArray(data));
  }

function digestOf(level: number, index: number): Digest {
  return (level * DRAWINGS + index).toString(16).padStart(64, '0');
}

/** The film, its drawings round and round on twos; `times` as many frames with the same drawings. */
function film(times: number): Project {
  const levels = Array.from({ length: LEVELS }, (_, level) => {
    const drawings = Array.from(
      { length: DRAWINGS },
      (_unused, index): Drawing => ({
        id: `${level}-${index}`,
        number: String(index + 1),
        role: 'inbetween',
        picture: digestOf(level, index),
      }),
    );
    const exposures: Exposure[] = [];
    for (let frame = 0, index = 0; frame < FRAMES * times; index++) {
      const frames = Math.min(2 * (level + 1), FRAMES * times - frame);
      exposures.push({ drawing: drawings[index % DRAWINGS]?.id ?? null, frames });
      frame += frames;
    }
    return { ...newLevel(`level${level}`, `Level ${level + 1}`), drawings, exposures };
  });
  const shot = { id: 'shot', code: '010', name: '', note: '', frames: FRAMES * times, levels, notes: [], sounds: [] };
  return newProject({
    id: 'film',
    title: 'Film',
    rate: { num: 30, den: 1 },
    size: SIZE,
    firstFrameNumber: 1,
    shots: [shot],
  });
}

function inspectionOf(project: Project): Inspection {
  const levels = (project.shots[0]?.levels ?? []).map((level) => level.drawings.flatMap(({ picture }) => picture ?? []));
  return { size: project.size, levels, clips: 'decoded', plan: planOfReel(project) };
}

const look = async (digest: Digest) => ({ rgba: pixels.get(digest) as Uint8ClampedArray });
const againstWith = (facts: CheckedAgainst['facts']): CheckedAgainst => ({ ...AGAINST_NOTHING, facts });

/** Looks at a film and checks it; in milliseconds. */
async function checked(inspector: Inspector, project: Project): Promise<number> {
  const started = performance.now();
  const facts = await inspector.inspect(inspectionOf(project));
  if (!facts) throw new Error('Nobody stopped it.');
  checkProject(project, againstWith(facts));
  return performance.now() - started;
}

/** Every frame against the one before, laid together beforehand; in milliseconds. */
async function compared(project: Project): Promise<number> {
  const plan = planOfReel(project);
  if (!plan) throw new Error('The film has frames.');
  const { stacks, runs } = plan;
  let milliseconds = 0;
  let before: Buffer | null = null;
  let beforeStack = -1;
  let beforeFrames = 0;
  const laid = async (stack: number) =>
    sharp({ create: { ...SIZE, channels: 4, background: '#fff' } })
      .composite(
        (stacks[stack]?.layers ?? []).map(({ picture }) => ({
          input: Buffer.from((pixels.get(picture) as Uint8ClampedArray).buffer),
          raw: { ...SIZE, channels: 4 as const },
        })),
      )
      .raw()
      .toBuffer();
  for (const run of runs) {
    const now: Buffer = run.stack === beforeStack && before ? before : await laid(run.stack);
    // A frame against itself is held as a frame against a copy: a comparison doesn't know that it is one picture.
    const copy = Buffer.from(now);
    const started = performance.now();
    if (before) pixelmatch(before, now, undefined, SIZE.width, SIZE.height);
    for (let frame = 1; frame < run.frames; frame++) pixelmatch(now, copy, undefined, SIZE.width, SIZE.height);
    milliseconds += performance.now() - started;
    before = now;
    beforeStack = run.stack;
    beforeFrames += run.frames;
  }
  if (beforeFrames !== FRAMES) throw new Error(`${beforeFrames} frames were compared, not ${FRAMES}.`);
  return milliseconds;
}

const project = film(1);
const inspector = new Inspector(look);
const cold = await checked(inspector, project);
const whole = await compared(project);
print({ name: 'check.cold', value: cold, unit: 'ms' });
print({ name: 'check.cold.ratio', value: cold / whole, unit: 'of pixelmatch', against: whole });

const edits: number[] = [];
let edited = project;
for (let edit = 0; edit < 30; edit++) {
  const at = { shotId: 'shot', levelId: `level${edit % LEVELS}`, atFrame: edit * 40 } as const;
  edited = mustBeDone(applyStep(edited, { type: 'setLength', ...at, frames: 1 + (edit % 5), following: 'push' }));
  edits.push(await checked(inspector, edited));
}
print({ name: 'check.warm', value: quantile(edits, 0.95), unit: 'ms', against: 50 });
print({ name: 'check.warm.median', value: quantile(edits, 0.5), unit: 'ms', against: 50 });

// The same drawings in the same combinations, ten times as long.
const longer = (times: number) => {
  const base = film(1);
  const shots = base.shots.map((shot) => ({
    ...shot,
    frames: shot.frames * times,
    levels: shot.levels.map((level) => ({ ...level, exposures: level.exposures.map((run) => ({ ...run, frames: run.frames * times })) })),
  }));
  return { ...base, shots };
};
const short: number[] = [];
const long: number[] = [];
for (let turn = 0; turn < 3; turn++) {
  short.push(await checked(new Inspector(look), longer(1)));
  long.push(await checked(new Inspector(look), longer(10)));
}
print({ name: 'check.growth', value: quantile(long, 0.5) / quantile(short, 0.5), unit: 'times', against: quantile(short, 0.5) });
print({ name: 'check.growth.cycled', value: (await checked(new Inspector(look), film(10))) / quantile(short, 0.5), unit: 'times' });
