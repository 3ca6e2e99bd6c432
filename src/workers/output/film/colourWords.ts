/** What a film says of its colours; null where it says nothing. */
export function colourWords({ primaries, transfer, matrix, fullRange }: VideoColorSpaceInit): string | null {
  const named = [...new Set([primaries, transfer, matrix].filter((name) => name != null))];
  if (named.length === 0) return null;
  const range = fullRange == null ? '' : fullRange ? ', full range' : ', limited range';
  return `${named.join(' / ')}${range}`;
}
