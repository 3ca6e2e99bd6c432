import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { countFile } from '@/core/count/fileCount';
import { digestsOfFrames, frameDigests } from '@/core/count/frameDigests';
import { type ReadBack, type ReadFrame, Undecodable } from '@/core/count/readBack';

const SIZE = { width: 640, height: 360 };
const still = (number: number, digest: string): ReadFrame => ({
  name: `${number}.png`,
  picture: { kind: 'exact', fingerprint: digest, size: SIZE },
  digest,
});
const filmFrame: ReadFrame = { name: null, picture: { kind: 'near', signature: new Uint8Array(4) }, digest: null };

async function* walk(frames: readonly ReadFrame[], failsAfter = Number.POSITIVE_INFINITY): AsyncGenerator<ReadFrame> {
  for (const [index, frame] of frames.entries()) {
    if (index >= failsAfter) throw new Undecodable('no decoder');
    yield frame;
  }
}

/** A film of `frames` frames at 24 a second. */
const film = (frames: number, failsAfter?: number): ReadBack => ({
  size: SIZE,
  times: {
    startMicroseconds: Array.from({ length: frames }, (_, frame) => (frame * 1e6) / 24),
    lastDurationMicroseconds: 1e6 / 24,
    statedDurationMicroseconds: null,
    tickMicroseconds: 0,
  },
  decoderDigest: null,
  colours: () => null,
  packetDigests: Array.from({ length: frames }, (_, frame) => `packet${frame}`),
  sound: null,
  loop: null,
  keyFrames: [0],
  frames: walk(
    Array.from({ length: frames }, () => filmFrame),
    failsAfter,
  ),
});

describe('a file counted from it alone', () => {
  it('is a film with the rate of its times', async () => {
    const taken: ReadFrame[] = [];
    const { count, digests, undecoded } = await countFile(film(48), (frame) => taken.push(frame));
    expect(count).toEqual({
      frames: 48,
      hasTimes: true,
      rate: { num: 24, den: 1 },
      otherRates: [],
      colours: null,
      durationMicroseconds: 2_000_000,
      timeToleranceMicroseconds: 1,
      mistimedFrames: [],
      loop: null,
      keyFrames: [0],
      sound: null,
      ...SIZE,
    });
    expect([taken.length, undecoded, digests?.of, digests?.digests.length]).toEqual([48, null, 'packet', 48]);
  });

  it('is counted by its times, with its packets’ digests, where its pictures can’t be decoded', async () => {
    const { count, digests, undecoded } = await countFile(film(48, 7), () => undefined);
    expect([count.frames, undecoded, digests && digestsOfFrames(digests).length]).toEqual([48, 'no decoder', 48]);
  });

  it('lets any other failure through', async () => {
    const broken = {
      ...film(2),
      frames: (async function* () {
        yield filmFrame;
        throw new Error('the disk is gone');
      })(),
    };
    await expect(countFile(broken, () => undefined)).rejects.toThrow('the disk is gone');
  });

  it('is a row of pictures without times', async () => {
    const frames = [still(1, 'a'), still(2, 'a'), still(4, 'b')];
    const { count, digests } = await countFile(
      {
        size: null,
        times: null,
        packetDigests: null,
        decoderDigest: null,
        colours: () => null,
        sound: null,
        loop: null,
        keyFrames: null,
        frames: walk(frames),
      },
      () => undefined,
    );
    expect(count).toMatchObject({ frames: 3, hasTimes: false, rate: null, ...SIZE });
    expect(digests).toMatchObject({
      of: 'file',
      digests: ['a', 'b'],
      runs: [
        [0, 2],
        [1, 1],
      ],
    });
  });
});

describe('digests of frames', () => {
  it('come back as they were, each written once', () => {
    fc.assert(
      fc.property(fc.array(fc.constantFrom('a', 'b', 'c', 'd')), (ofFrames) => {
        const short = frameDigests('file', ofFrames);
        expect(digestsOfFrames(short)).toEqual(ofFrames);
        expect(new Set(short.digests).size).toBe(short.digests.length);
      }),
    );
  });
});
