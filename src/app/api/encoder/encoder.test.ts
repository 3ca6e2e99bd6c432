import sharp from 'sharp';
import { afterEach, describe, expect, it } from 'vitest';
import { POST as encode } from '@/app/api/encoder/[filmId]/encode/route';
import { GET as getFilm } from '@/app/api/encoder/[filmId]/film/route';
import { GET as getFrames } from '@/app/api/encoder/[filmId]/frames/route';
import { PUT as putPicture } from '@/app/api/encoder/[filmId]/pictures/route';
import { DELETE as letGo } from '@/app/api/encoder/[filmId]/route';
import { PUT as putSound } from '@/app/api/encoder/[filmId]/sound/route';
import { POST as begin, GET as getEncoder } from '@/app/api/encoder/route';
import { NO_ENCODER, type OutsideOrder, type ReadingLine } from '@/core/output/outsideFilm';

const BASE = 'http://127.0.0.1:4151/api/encoder';
const ORDER: OutsideOrder = {
  container: 'mkv',
  codec: 'ffv1',
  depth: 8,
  quality: 'fine',
  transparency: false,
  width: 16,
  height: 16,
  rate: { num: 24, den: 1 },
  frames: 5,
  sound: { codec: 'flac', sampleRate: 48_000, channels: 2, samples: 10_000 },
  title: '',
  language: 'und',
  timecode: '',
};
const none = { params: Promise.resolve({}) };
const at = (filmId: string) => ({ params: Promise.resolve({ filmId }) });
const post = (address: string, body: unknown) => new Request(`${BASE}${address}`, { method: 'POST', body: JSON.stringify(body) });
const put = (address: string, body: Uint8Array) =>
  new Request(`${BASE}${address}`, { method: 'PUT', body: body as Uint8Array<ArrayBuffer> });
const page = (side: number) =>
  sharp({ create: { width: side, height: side, channels: 3, background: '#4a7' } })
    .png()
    .toBuffer();

const begun: string[] = [];
afterEach(async () => {
  for (const id of begun.splice(0)) await letGo(new Request(BASE), at(id));
});

async function beginFilm(part: Partial<OutsideOrder> = {}): Promise<string> {
  const { id } = (await (await begin(post('', { ...ORDER, ...part }), none)).json()) as { id: string };
  begun.push(id);
  return id;
}

async function sendAll(id: string): Promise<void> {
  await putPicture(put(`/${id}/pictures?number=0`, await page(16)), at(id));
  await putPicture(put(`/${id}/pictures?number=3`, await page(16)), at(id));
  await putSound(put(`/${id}/sound?sample=0`, new Uint8Array(40_000)), at(id));
  await putSound(put(`/${id}/sound?sample=5000`, new Uint8Array(40_000)), at(id));
}
const RUNS = {
  runs: [
    { picture: 0, frames: 2 },
    { picture: 3, frames: 3 },
  ],
};

async function linesOf(response: Response): Promise<ReadingLine[]> {
  return (await response.text())
    .trim()
    .split('\n')
    .map((line) => JSON.parse(line) as ReadingLine);
}

describe('the outside encoder', () => {
  it('makes a film of what was sent, and reads it again', async () => {
    const id = await beginFilm();
    await sendAll(id);
    const told = await linesOf(await encode(post(`/${id}/encode`, RUNS), at(id)));
    expect(told.at(-1)).toMatchObject({ kind: 'done' });
    const film = new Uint8Array(await (await getFilm(new Request(BASE), at(id))).arrayBuffer());
    // EBML's first four bytes (RFC 8794).
    expect([...film.slice(0, 4)]).toEqual([0x1a, 0x45, 0xdf, 0xa3]);
    const read = await linesOf(await getFrames(new Request(BASE), at(id)));
    expect(read.filter(({ kind }) => kind === 'frame')).toHaveLength(5);
    expect(read.at(-1)).toEqual({ kind: 'end', frames: 5 });
  });

  it('says a sentence where it is not on the path', async () => {
    const { PATH } = process.env;
    process.env.PATH = '/nowhere';
    try {
      expect(await (await getEncoder(new Request(BASE), none)).json()).toEqual({ found: false, reason: NO_ENCODER });
      const answer = await begin(post('', ORDER), none);
      expect({ status: answer.status, ...((await answer.json()) as object) }).toMatchObject({ status: 422, error: NO_ENCODER });
    } finally {
      process.env.PATH = PATH;
    }
  });

  it('tells in a sentence why it failed, when a picture breaks off in the middle', async () => {
    const id = await beginFilm({ sound: null });
    const whole = await page(16);
    await putPicture(put(`/${id}/pictures?number=0`, whole.subarray(0, whole.byteLength - 40)), at(id));
    await putPicture(put(`/${id}/pictures?number=3`, Buffer.concat([whole.subarray(0, 40), Buffer.alloc(20)])), at(id));
    const told = await linesOf(await encode(post(`/${id}/encode`, RUNS), at(id)));
    expect(told.at(-1)).toMatchObject({ kind: 'failed', reason: expect.stringMatching(/.{5,}/) as string });
  });

  it.each([
    ['an order without frames', () => begin(post('', { ...ORDER, frames: 0 }), none)],
    ['an order of a side of nothing', () => begin(post('', { ...ORDER, width: 0 }), none)],
    ['a container it never writes', () => begin(post('', { ...ORDER, container: 'mp4' }), none)],
    ['a timecode with more in it', () => begin(post('', { ...ORDER, timecode: '01:00:00:00 -vf x' }), none)],
    ['no JSON', () => begin(new Request(BASE, { method: 'POST', body: '{' }), none)],
    ['a film that was never begun', () => encode(post('/x/encode', RUNS), at('x'))],
    ['a film with a path for a name', () => getFilm(new Request(BASE), at('../../etc/passwd'))],
    ['frames of a film that was never begun', () => getFrames(new Request(BASE), at('x'))],
    ['a picture that is none', async () => putPicture(put('/y?number=0', new Uint8Array(50)), at(await beginFilm()))],
    ['a picture of another size', async () => putPicture(put('/y?number=0', await page(8)), at(await beginFilm()))],
    ['a picture without its number', async () => putPicture(put('/y', await page(16)), at(await beginFilm()))],
    ['a picture of a number that is none', async () => putPicture(put('/y?number=../0', await page(16)), at(await beginFilm()))],
    ['sound past its end', async () => putSound(put('/y?sample=9999', new Uint8Array(80)), at(await beginFilm()))],
    ['half a sample', async () => putSound(put('/y?sample=0', new Uint8Array(12)), at(await beginFilm()))],
    ['sound of a film without', async () => putSound(put('/y?sample=0', new Uint8Array(8)), at(await beginFilm({ sound: null })))],
    ['a film that did not come over whole', async () => encode(post('/y', RUNS), at(await beginFilm()))],
    [
      'runs of more frames than the film has',
      async () => {
        const id = await beginFilm();
        await sendAll(id);
        return encode(post('/y', { runs: [...RUNS.runs, { picture: 0, frames: 1 }] }), at(id));
      },
    ],
    ['frames of a film that is not encoded yet', async () => getFrames(new Request(BASE), at(await beginFilm()))],
    ['a film that is not encoded yet', async () => getFilm(new Request(BASE), at(await beginFilm()))],
  ])('refuses %s with a sentence', async (_what, ask) => {
    const response = await ask();
    expect(response.status).toBeGreaterThanOrEqual(400);
    expect(response.status).toBeLessThan(500);
    const { error } = (await response.json()) as { error: string };
    expect(error).toMatch(/^.{10,}[.!?]$/s);
  });

  it('refuses one film more than it keeps, and takes one again when one was let go', async () => {
    for (let film = 0; film < 8; film++) await beginFilm();
    expect((await begin(post('', ORDER), none)).status).toBe(422);
    await letGo(new Request(BASE), at(begun[0] as string));
    await beginFilm();
  });
});
