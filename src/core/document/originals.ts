import type { Digest, Project } from '@/core/document/model';

/** The pictures that drawings of a project show, each once. */
export const picturesOf = ({ shots }: Project): readonly Digest[] => [
  ...new Set(shots.flatMap(({ levels }) => levels.flatMap(({ drawings }) => drawings.flatMap(({ picture }) => picture ?? [])))),
];

/** The files that a project's sounds and clips are of, by the SHA-256 of their bytes, each with a name it was brought in under. */
export function originalsOf({ shots, reel }: Project): ReadonlyMap<string, string> {
  const named = new Map<string, string>();
  for (const { recording } of [...shots.flatMap(({ sounds }) => sounds), ...reel.sounds]) named.set(recording.original, recording.fileName);
  for (const item of reel.items) if (item.kind === 'clip') named.set(item.clip.original, item.clip.fileName);
  return named;
}
