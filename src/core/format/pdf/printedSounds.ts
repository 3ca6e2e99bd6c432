/** So many parts of a frame are drawn. */
export const PRINTED_PARTS = 4;

/**
 * A sound beside the frames of a sheet: from `startFrame` (inclusive, below 0 where it began before the shot) to `endFrame`
 * (exclusive), in a lane, with how far it reaches, 0 to 1, in each part of its frames from its start on. `loudness` is empty
 * while nobody has listened to it.
 */
export type PrintedSound = {
  readonly name: string;
  readonly lane: number;
  readonly startFrame: number;
  readonly endFrame: number;
  readonly loudness: readonly number[];
};

export type PrintedSounds = { readonly sounds: readonly PrintedSound[]; readonly lanes: number };

export const NO_SOUNDS: PrintedSounds = { sounds: [], lanes: 0 };
