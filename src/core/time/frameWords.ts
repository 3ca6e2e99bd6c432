/** One frame or several by the numbers shown: `frame 3`, `frames 3–6`. Frames count from 0, both ends inclusive. */
export function framesInWords(fromFrame: number, toFrame: number, firstNumber: number): string {
  return fromFrame === toFrame ? `frame ${fromFrame + firstNumber}` : `frames ${fromFrame + firstNumber}–${toFrame + firstNumber}`;
}

/**
 * Frame numbers in words, runs joined, at most `most` parts: `frames 3–5, 9 and 4 more places`. Frame 0 has the number `firstNumber`.
 * Where they are numbers of something else, `piece` is the word for one.
 */
export function frameRangeWords(frames: readonly number[], most = 6, firstNumber = 0, piece = 'frame'): string {
  const parts: { first: number; last: number }[] = [];
  for (const frame of frames) {
    const part = parts.at(-1);
    if (part && frame === part.last + 1) part.last = frame;
    else parts.push({ first: frame, last: frame });
  }
  const shown = parts
    .slice(0, most)
    .map((part) =>
      part.first === part.last ? String(part.first + firstNumber) : `${part.first + firstNumber}–${part.last + firstNumber}`,
    );
  const more = parts.length - shown.length;
  const list = shown.join(', ') + (more > 0 ? ` and ${more} more ${more === 1 ? 'place' : 'places'}` : '');
  return `${frames.length === 1 ? piece : `${piece}s`} ${list}`;
}
