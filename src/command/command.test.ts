import { execFileSync, spawnSync } from 'node:child_process';
import { copyFileSync, mkdirSync, mkdtempSync, readdirSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import path from 'node:path';
import { Uint8ArrayReader, Uint8ArrayWriter, ZipWriter } from '@zip.js/zip.js';
import sharp from 'sharp';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { countablesAt } from '@/command/openPath';
import { EXIT } from '@/command/options';
import { run } from '@/command/run';
import { type CountLine, countJsonSchema, countLineSchema } from '@/contracts/count';
import { receiptJsonSchema, receiptReader } from '@/contracts/receipt';
import { digestsOfFrames } from '@/core/count/frameDigests';
import { countOutside } from '@/core/outside/countOutside';

/* The command as it is called: what it writes, and how it ends. */

let folder = '';
const at = (name: string): string => path.join(folder, name);
const ffmpeg = (...args: readonly string[]) => execFileSync('ffmpeg', ['-v', 'error', '-y', ...args], { cwd: folder });

beforeAll(() => {
  folder = mkdtempSync(path.join(tmpdir(), 'lime-tick-command-'));
  ffmpeg('-f', 'lavfi', '-i', 'testsrc2=s=320x180:r=24:d=1', '-c:v', 'libx264', '-preset', 'ultrafast', '-pix_fmt', 'yuv420p', 'film.mp4');
  ffmpeg('-i', 'film.mp4', '-c', 'copy', '-movflags', 'faststart', 'anew.mp4');
  ffmpeg(
    '-i',
    'film.mp4',
    '-vf',
    "select='not(eq(n,9))',settb=1/24,setpts=N",
    '-fps_mode',
    'passthrough',
    '-c:v',
    'libx264',
    '-pix_fmt',
    'yuv420p',
    'drop.mp4',
  );
  mkdirSync(at('row'));
  ffmpeg('-i', 'film.mp4', 'row/a_%03d.png');
});
afterAll(() => rmSync(folder, { recursive: true, force: true }));

async function called(...args: readonly string[]): Promise<{ status: number; printed: string; complained: string }> {
  const [printed, complained]: [string[], string[]] = [[], []];
  const status = await run(args, { print: (line) => void printed.push(line), complain: (line) => void complained.push(line) });
  return { status, printed: printed.join('\n'), complained: complained.join('\n') };
}
const lineOf = (printed: string): CountLine => countLineSchema.parse(JSON.parse(printed.split('\n')[0] ?? ''));

/** A receipt of a film as it would be handed over, made of what is counted in it. */
async function receiptOf(name: string, change: object = {}): Promise<string> {
  const [thing] = await countablesAt([at(name)], true);
  if (!thing) throw new Error('There is a film.');
  const { count, digests } = await countOutside(await thing.open());
  const size = { width: count.width, height: count.height };
  const none = { repeatFrames: [], wrongFrames: [], missingFrames: [], mistimedFrames: [], otherRates: [], untellableChanges: 0 };
  const receipt = {
    file: 'lime-tick-receipt',
    version: receiptReader.version,
    id: 'receipt-1',
    fileName: name,
    formatId: 'mp4',
    fileBytes: count.fileBytes,
    fileDigest: digests.file,
    shotId: null,
    whole: true,
    withBackground: true,
    planDigest: 'a'.repeat(64),
    pictures: 24,
    madeAt: '2026-01-01T00:00:00.000Z',
    request: { ...size, frames: count.frames, rate: count.rate, firstNumber: 1 },
    count: {
      ...size,
      ...none,
      frames: count.frames,
      hasTimes: true,
      rate: count.rate,
      durationMicroseconds: 1_000_000,
      timeToleranceMicroseconds: 1,
      comparison: { kind: 'exact' },
    },
    frameDigests: digests.frames,
    ...change,
  };
  const file = at(`${name}.receipt.json`);
  writeFileSync(file, JSON.stringify(receipt));
  return file;
}

describe('the command', () => {
  it('runs from the package’s own bin, and by npm', () => {
    const own = spawnSync('node', ['bin/lime-tick.mjs', 'count', at('film.mp4')], { encoding: 'utf8' });
    expect(own.stdout).toContain('MP4, H.264 · 24 fr · 24/1 · 1.000 s · 320 × 180');
    expect(own.status).toBe(EXIT.agrees);
    expect(spawnSync('npx', ['lime-tick', 'count', at('nothing.mp4')], { encoding: 'utf8' }).status).toBe(EXIT.unreadable);
  }, 120_000);

  it.each([
    [['count'], EXIT.unreadable, 'Say which files to count.'],
    [['weigh', 'a'], EXIT.unreadable, 'There is no command “weigh”.'],
    [['count', 'a', '--rate', 'fast'], EXIT.unreadable, '“fast” is not a rate'],
    [['count', '/nowhere/a.mp4'], EXIT.unreadable, 'There is nothing at /nowhere/a.mp4.'],
    [['count', 'a', '--loud'], EXIT.unreadable, 'Unknown option'],
  ])('%j ends with %i', async (args, status, words) => {
    const answer = await called(...args);
    expect(answer.complained).toContain(words);
    expect(answer.status).toBe(status);
  });

  it('says how it is used', async () => expect((await called('--help')).printed).toContain('lime-tick count FILE'));

  it('writes JSON by its schema, which lies in the docs', async () => {
    expect(JSON.parse(readFileSync('docs/count.schema.json', 'utf8'))).toEqual(JSON.parse(JSON.stringify(countJsonSchema())));
    const { printed, status } = await called('count', '--json', at('film.mp4'), at('row'));
    expect(
      printed
        .split('\n')
        .map((line) => countLineSchema.parse(JSON.parse(line)))
        .map((line) => line.kind === 'counted' && line.count.frames),
    ).toEqual([24, 24]);
    expect(status).toBe(EXIT.agrees);
  });

  it('holds a rate', async () => {
    expect((await called('count', at('film.mp4'), '--rate', '24')).status).toBe(EXIT.agrees);
    const other = await called('count', at('film.mp4'), '--rate', '25');
    expect(other.status).toBe(EXIT.disagrees);
    expect(other.printed).toContain('It runs at 24 a second, not at 25.');
  });

  it('counts what lies in a ZIP, a film and pictures beside each other', async () => {
    const zip = at('all.zip');
    const writer = new ZipWriter(new Uint8ArrayWriter());
    await writer.add('f/film.mp4', new Uint8ArrayReader(readFileSync(at('film.mp4'))));
    for (const name of readdirSync(at('row')).toSorted())
      await writer.add(`f/row/${name}`, new Uint8ArrayReader(readFileSync(at(`row/${name}`))));
    writeFileSync(zip, await writer.close());
    const { printed, status } = await called('count', zip, '--json');
    const lines = printed.split('\n').map((line) => countLineSchema.parse(JSON.parse(line)));
    expect(lines.map((line) => line.kind === 'counted' && [line.count.name, line.count.frames])).toEqual([
      ['f/film.mp4', 24],
      ['a_###.png', 24],
    ]);
    expect(status).toBe(EXIT.agrees);
    writeFileSync(at('cut.zip'), readFileSync(zip).subarray(0, 5000));
    expect((await called('count', at('cut.zip'))).complained).toContain('The ZIP is broken, or cut short');
  });

  it('reads pictures of every depth and kind as the same', async () => {
    mkdirSync(at('kinds'));
    const png = readFileSync(at('row/a_001.png'));
    writeFileSync(at('kinds/a_01.png'), await sharp(png).toColourspace('rgb16').png().toBuffer());
    writeFileSync(at('kinds/b_01.png'), await sharp(png).png({ palette: true, colours: 256 }).toBuffer());
    writeFileSync(at('kinds/c_01.jpg'), await sharp(png).toColourspace('cmyk').jpeg({ quality: 95 }).toBuffer());
    writeFileSync(at('kinds/d_01.tif'), await sharp(png).tiff().toBuffer());
    const { printed } = await called('count', at('kinds'), '--json', '--against', at('row/a_001.png'));
    const lines = printed.split('\n').map((line) => countLineSchema.parse(JSON.parse(line)));
    // Four colours go another way than three: a print profile changes them beyond what is the same.
    expect(lines.map((line) => line.kind === 'counted' && [line.count.name, line.count.unreadable.length])).toEqual([
      ['a_01.png', 0],
      ['b_01.png', 0],
      ['c_01.jpg', 0],
      ['d_01.tif', 0],
    ]);
    const agrees = lines.filter(({ file }) => file !== 'c_01.jpg').map((line) => line.kind === 'counted' && line.agreement?.agrees);
    expect(agrees).toEqual([true, true, true]);
  });
});

it.each([
  ['libvpx-vp9', 'see.webm'],
  ['libvpx', 'see.mkv'],
])('transparency that %s keeps beside the film is laid on paper, as that of pictures is', async (coder, name) => {
  mkdirSync(at(`clear-${coder}`));
  for (let frame = 1; frame <= 6; frame++) {
    const svg = `<svg xmlns="http://www.w3.org/2000/svg" width="320" height="180"><circle cx="${40 * frame}" cy="90" r="34" fill="#c43" fill-opacity="0.6"/></svg>`;
    writeFileSync(at(`clear-${coder}/c_${frame}.png`), await sharp(Buffer.from(svg)).png().toBuffer());
  }
  const coding = ['-c:v', coder, '-pix_fmt', 'yuva420p', '-auto-alt-ref', '0', '-b:v', '4M'];
  ffmpeg('-framerate', '24', '-i', `clear-${coder}/c_%d.png`, ...coding, name);
  const { printed, status } = await called('count', at(name), '--against', at(`clear-${coder}`));
  expect(printed).toContain('6 frames');
  expect(status, printed).toBe(EXIT.agrees);
});

describe('against a receipt', () => {
  it('whose schema lies in the docs', () =>
    expect(JSON.parse(readFileSync('docs/receipt.schema.json', 'utf8'))).toEqual(JSON.parse(JSON.stringify(receiptJsonSchema()))));

  it('the very file is told by its digest', async () => {
    const { printed, status } = await called('count', at('film.mp4'), '--json', '--against', await receiptOf('film.mp4'));
    const line = lineOf(printed);
    expect(line.kind === 'counted' && line.agreement?.headline).toBe('This is the very file: film.mp4, by its SHA-256.');
    expect(status).toBe(EXIT.agrees);
  });

  it('the same frames packed anew agree', async () => {
    const { printed, status } = await called('count', at('anew.mp4'), '--against', await receiptOf('film.mp4'));
    expect(printed).toContain('The same frames, packed anew: all 24 are the very ones of film.mp4, by their SHA-256.');
    expect(status).toBe(EXIT.agrees);
  });

  it('the frame that differs is named', async () => {
    const [thing] = await countablesAt([at('film.mp4')], true);
    const own = thing && (await countOutside(await thing.open())).digests.frames;
    if (!own) throw new Error('A film has digests.');
    const digests = digestsOfFrames(own).map((digest, frame) => (frame === 6 ? 'b'.repeat(64) : digest));
    const frameDigests = { version: 1, of: 'packet', digests, runs: digests.map((_, index) => [index, 1]) };
    const { printed, status } = await called(
      'count',
      at('anew.mp4'),
      '--against',
      await receiptOf('film.mp4', { frameDigests, fileDigest: 'c'.repeat(64) }),
    );
    expect(printed).toContain('Frame 7 shows another picture than planned.');
    expect(status).toBe(EXIT.disagrees);
  });

  it('frames that were coded anew are counted, and said not to be seen', async () => {
    const { printed, status } = await called('count', at('drop.mp4'), '--against', await receiptOf('film.mp4'));
    expect(printed).toContain('Another file than film.mp4: its frames were coded anew; frames 23 for 24');
    expect(status).toBe(EXIT.disagrees);
  });

  it('what is no receipt is refused', async () => {
    writeFileSync(at('bad.json'), '{"version":99}');
    expect(await called('count', at('film.mp4'), '--against', at('bad.json'))).toMatchObject({
      status: EXIT.unreadable,
      complained: expect.stringContaining('newer Lime Tick'),
    });
  });
});

it('watches a folder and counts what arrives, once it is whole', async () => {
  mkdirSync(at('in'));
  copyFileSync(at('film.mp4'), at('in/before.mp4'));
  const stop = new AbortController();
  const printed: string[] = [];
  let ended: Promise<number> = Promise.resolve(EXIT.unreadable);
  const arrived = new Promise<void>((resolve) => {
    const print = (line: string) => {
      printed.push(line);
      resolve();
    };
    const complain = () => copyFileSync(at('drop.mp4'), at('in/came.mp4'));
    ended = run(['count', '--watch', at('in'), '--against', at('film.mp4')], { print, complain }, stop.signal);
  });
  await arrived;
  stop.abort();
  expect(await ended).toBe(EXIT.disagrees);
  expect(printed[0]).toContain('came.mp4');
  expect(printed[0]).toContain('frame 10 is missing');
  expect(printed).toHaveLength(1);
});
