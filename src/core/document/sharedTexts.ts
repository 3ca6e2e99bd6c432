import type { Digest, Drawing, DrawingId, Exposure, Shot } from '@/core/document/model';

/*
 * What comes as text or from another thread holds each id and digest once for every place that names it: of a feature film that is
 * a third of the document. Here all places that name one thing get the very same text. Nothing else changes, so that it is done in
 * place, on values that nobody was given yet.
 */

type Writable<Value> = { -readonly [Field in keyof Value]: Value[Field] };

/** Shots and lists of levels that were gone through: an edit leaves most as they are. */
const isShared = new WeakSet<object>();

/** Has equal digests of those of `shots` that are new, and within each level equal ids of drawings, be one text each. */
export function shareTexts(shots: readonly Shot[]): void {
  const digests = new Map<Digest, Digest>();
  for (const shot of shots) {
    if (isShared.has(shot)) continue;
    isShared.add(shot);
    for (const { drawings, exposures } of shot.levels) {
      if (isShared.has(drawings) && isShared.has(exposures)) continue;
      isShared.add(drawings).add(exposures);
      const ids = new Map<DrawingId, DrawingId>();
      for (const drawing of drawings) {
        ids.set(drawing.id, drawing.id);
        if (drawing.picture !== null) (drawing as Writable<Drawing>).picture = oneOf(digests, drawing.picture);
      }
      for (const run of exposures) {
        if (run.drawing !== null) (run as Writable<Exposure>).drawing = oneOf(ids, run.drawing);
      }
    }
  }
}

function oneOf(texts: Map<string, string>, text: string): string {
  const one = texts.get(text);
  if (one !== undefined) return one;
  texts.set(text, text);
  return text;
}
