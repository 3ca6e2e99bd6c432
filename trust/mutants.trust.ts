import { mkdtemp } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import path from 'node:path';
import { sql } from 'drizzle-orm';
import sharp from 'sharp';
import { writeBmp } from '../src/core/format/bmp/writeBmp';
import { readCaptions, writeSubRip } from '../src/core/format/captions/captions';
import { readDetailsCsv, writeDetailsCsv } from '../src/core/format/csv/detailsCsv';
import { readSheetCsv, writeSheetCsv } from '../src/core/format/csv/sheetCsv';
import { readEdl } from '../src/core/format/edl/readEdl';
import { readOtio } from '../src/core/format/otio/readOtio';
import { writeTga } from '../src/core/format/tga/writeTga';
import { START } from '../src/core/testing/steps';
import { promised, wholeFrom } from './figure';

/*
 * Files of every kind that is read, changed in many ways: bits turned, parts cut out, doubled, made huge. A reader answers with what it
 * read or a sentence; it neither throws, nor takes what it refuses into the store.
 */

const MUTANTS = wholeFrom('TRUST_MUTANTS', 10_000);
/** Part of the name of what is tried; all of it where none is given. */
const ONLY = process.env.TRUST_ONLY ?? '';
const MEBIBYTE = 1024 * 1024;
const MOST_MEBIBYTES = 1536;
process.env.LIME_TICK_DATA = await mkdtemp(path.join(tmpdir(), 'lime-tick-trust-'));
process.env.LIME_TICK_LOG = 'silent';

/** Numbers that are the same in every run: linear congruence (Numerical Recipes, from memory). */
let seed = 4151;
function below(limit: number): number {
  seed = (Math.imul(seed, 1_664_525) + 1_013_904_223) >>> 0;
  return Math.floor((seed / 2 ** 32) * limit);
}

const EXTREMES = [0, 1, 0x7f, 0xff, 0x7fff, 0xffff, 0x7fffffff, 0xffffffff];

/** A file with one to four changes. */
function mutant(of: Uint8Array): Uint8Array {
  let bytes = new Uint8Array(of);
  for (let changes = 1 + below(4); changes > 0; changes--) {
    const at = below(bytes.length);
    const length = 1 + below(Math.min(64, bytes.length));
    const kind = below(6);
    if (kind === 0) bytes[at] = (bytes[at] ?? 0) ^ (1 << below(8));
    else if (kind === 1) bytes[at] = below(256);
    else if (kind === 2) bytes = new Uint8Array([...bytes.subarray(0, at), ...bytes.subarray(at + length)]);
    else if (kind === 3) bytes = new Uint8Array([...bytes.subarray(0, at), ...bytes.subarray(at, at + length), ...bytes.subarray(at)]);
    else if (kind === 4) bytes = bytes.slice(0, at);
    else if (at + 4 <= bytes.length) new DataView(bytes.buffer).setUint32(at, EXTREMES[below(EXTREMES.length)] ?? 0, below(2) === 0);
    if (bytes.length === 0) return bytes;
  }
  return bytes;
}

let most = 0;
const watch = () => {
  most = Math.max(most, process.memoryUsage().rss);
};

async function tried(figure: string, read: (bytes: Uint8Array) => unknown, sample: Uint8Array, count = MUTANTS): Promise<void> {
  if (!figure.includes(ONLY)) return;
  let [thrown, refused, slowest] = [0, 0, 0];
  let first: string | null = null;
  for (let index = 0; index < count; index++) {
    const bytes = mutant(sample);
    const began = performance.now();
    try {
      const answer = (await read(bytes)) as { ok?: boolean };
      if (answer.ok === false) refused++;
    } catch (error) {
      thrown++;
      first ??= error instanceof Error ? (error.stack ?? error.message).slice(0, 600) : String(error);
    }
    slowest = Math.max(slowest, performance.now() - began);
    if (index % 64 === 0) watch();
  }
  promised({
    figure: `mutants ${figure}`,
    tried: count,
    broken: thrown,
    refused,
    slowestMilliseconds: Math.round(slowest),
    ...(first ? { first } : {}),
  });
}

const text = (bytes: Uint8Array) => new TextDecoder().decode(bytes);
const bytesOf = (words: string) => new TextEncoder().encode(words);
const [shot] = START.shots;
if (!shot) throw new Error('There is a shot.');

await tried('sheet as CSV', (bytes) => readSheetCsv(text(bytes), 1), bytesOf(writeSheetCsv(shot, 1)));
await tried('details as CSV', (bytes) => readDetailsCsv(text(bytes), 1), bytesOf(writeDetailsCsv(shot, 1)));
await tried(
  'words as SubRip',
  (bytes) => readCaptions(text(bytes)),
  bytesOf(writeSubRip([{ startMilliseconds: 0, endMilliseconds: 900, words: 'lets go' } as never])),
);
const EDL =
  'TITLE: WASHDAY\nFCM: NON-DROP FRAME\n\n001  AX       V     C        00:00:00:00 00:00:03:00 01:00:00:00 01:00:03:00\n* FROM CLIP NAME: 010\n\n002  AX       V     C        00:00:00:00 00:00:04:00 01:00:03:00 01:00:07:00\n';
await tried('edit decision list', (bytes) => readEdl(text(bytes), { num: 24, den: 1 }), bytesOf(EDL));
const rate = { OTIO_SCHEMA: 'RationalTime.1', rate: 24, value: 0 };
const OTIO = JSON.stringify({
  OTIO_SCHEMA: 'Timeline.1',
  name: 'Washday',
  global_start_time: rate,
  tracks: {
    OTIO_SCHEMA: 'Stack.1',
    children: [
      {
        OTIO_SCHEMA: 'Track.1',
        kind: 'Video',
        children: [
          {
            OTIO_SCHEMA: 'Clip.2',
            name: '010',
            source_range: { OTIO_SCHEMA: 'TimeRange.1', start_time: rate, duration: { ...rate, value: 72 } },
          },
          { OTIO_SCHEMA: 'Gap.1', source_range: { OTIO_SCHEMA: 'TimeRange.1', start_time: rate, duration: { ...rate, value: 12 } } },
        ],
      },
    ],
  },
});
await tried('OpenTimelineIO', (bytes) => readOtio(text(bytes)), bytesOf(OTIO));

const { createProject } = await import('../src/server/service/projects');
const { takeFile } = await import('../src/server/service/bringIn/takeFile');
const { received } = await import('../src/testing/server');
const { getDatabase } = await import('../src/server/store/database');
const { checkPackage, dropPackage } = await import('../src/server/service/package/takePackage');
const { packageOf } = await import('../src/server/service/package/writePackage');
const { id } = await createProject({
  title: 'Mutants',
  rate: { num: 24, den: 1 },
  size: { width: 24, height: 16 },
  firstFrameNumber: 1,
  frames: 24,
});

const [width, height] = [24, 16];
const rgba = new Uint8Array(width * height * 4).map((_, index) => (index * 37) % 251);
const image = () => sharp(rgba, { raw: { width, height, channels: 4 } });
const frames = sharp(Buffer.concat([rgba, rgba.toReversed()]), {
  raw: { width, height: height * 2, channels: 4, pageHeight: height } as never,
});
const samples: readonly (readonly [string, Uint8Array])[] = [
  ['a.png', await image().png().toBuffer()],
  ['a.jpg', await image().flatten().jpeg().toBuffer()],
  ['a.webp', await image().webp({ lossless: true }).toBuffer()],
  ['a.gif', await frames.gif({ delay: [80, 120] }).toBuffer()],
  ['a.tiff', await image().tiff().toBuffer()],
  ['a.tga', writeTga(width, height, rgba, 'straight' as never)],
  ['a.bmp', writeBmp(width, height, rgba, true)],
];
const rowsOf = async (): Promise<number> => {
  const { rows } = (await (
    await getDatabase()
  ).execute(
    sql`select ((select count(*) from pictures) + (select count(*) from originals) + (select count(*) from original_parts))::int as rows`,
  )) as unknown as { rows: { rows: number }[] };
  return rows[0]?.rows ?? 0;
};
for (const [name, sample] of samples)
  await tried(
    `${name.slice(2)} brought in`,
    async (bytes) => {
      const before = await rowsOf();
      const answer = await received(name, bytes, 'picture', (file) => takeFile(id, file, 'straight'));
      if (!answer.ok && (await rowsOf()) !== before) throw new Error('What was refused was stored in part.');
      if (!answer.ok && answer.error.trim() === '') throw new Error('It was refused without a sentence.');
      return answer;
    },
    sample,
  );

const made = await packageOf(id, true);
if (!made.ok) throw new Error(made.error);
const parts: Uint8Array[] = [];
for await (const part of made.value.bytes) parts.push(part);
await tried(
  'package',
  async (bytes) => {
    let last: { kind: string; token?: string } = { kind: '' };
    for await (const line of checkPackage(new Blob([bytes as Uint8Array<ArrayBuffer>]).stream(), bytes.byteLength)) last = line;
    if (last.token) await dropPackage(last.token);
    return { ok: last.kind === 'checked' };
  },
  new Uint8Array(Buffer.concat(parts)),
);

promised({
  figure: 'mutants memory',
  tried: 1,
  broken: most / MEBIBYTE > MOST_MEBIBYTES ? 1 : 0,
  mostMib: Math.round(most / MEBIBYTE),
  goalMib: MOST_MEBIBYTES,
});
process.exit();
