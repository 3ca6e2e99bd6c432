/** The form frame digests are written in. */
export const FRAME_DIGESTS_VERSION = 1;

/**
 * SHA-256 of what a file holds for each frame, in order: of the bytes of its picture file, or of its packet in a film. Each
 * digest is written once; `runs` say how many frames in a row have it: `[index in digests, frames]`.
 */
export type FrameDigests = {
  readonly version: number;
  readonly of: 'file' | 'packet';
  readonly digests: readonly string[];
  readonly runs: readonly (readonly [digest: number, frames: number])[];
};

/** The digests of frames in order, written short. */
export function frameDigests(of: FrameDigests['of'], ofFrames: readonly string[]): FrameDigests {
  const indexes = new Map<string, number>();
  const runs: [number, number][] = [];
  for (const digest of ofFrames) {
    const index = indexes.get(digest) ?? indexes.size;
    indexes.set(digest, index);
    const last = runs.at(-1);
    if (last?.[0] === index) last[1]++;
    else runs.push([index, 1]);
  }
  return { version: FRAME_DIGESTS_VERSION, of, digests: [...indexes.keys()], runs };
}

/** The digest of each frame, in order. */
export const digestsOfFrames = ({ digests, runs }: FrameDigests): readonly string[] =>
  runs.flatMap(([index, frames]) => Array.from({ length: frames }, () => digests[index] as string));
