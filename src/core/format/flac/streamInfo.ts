/**
 * How many samples of one channel a FLAC file says it holds, from its STREAMINFO (RFC 9639, 8.2): the last 36 of
 * the 64 bits from byte 18 on. Null for a file that is none, or whose writer didn't know.
 */
export function flacSamples(head: Uint8Array): number | null {
  const isFlac = head.byteLength >= 26 && String.fromCharCode(...head.subarray(0, 4)) === 'fLaC' && ((head[4] as number) & 0x7f) === 0;
  if (!isFlac) return null;
  const view = new DataView(head.buffer, head.byteOffset, head.byteLength);
  const samples = (view.getUint8(21) & 0x0f) * 2 ** 32 + view.getUint32(22);
  return samples === 0 ? null : samples;
}
