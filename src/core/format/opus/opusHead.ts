/** Where in an Opus header the count of samples before the first one stands (RFC 7845, 5.1: version, channels, then the count). */
const PRE_SKIP_AT = 10;

/** Samples a decoder gives before the first one, at 48,000 a second, as the header of Opus says; 0 where there is no such header. */
export function opusPriming(header: ArrayBufferLike | ArrayBufferView | undefined): number {
  if (!header) return 0;
  const view = ArrayBuffer.isView(header) ? new DataView(header.buffer, header.byteOffset, header.byteLength) : new DataView(header);
  return view.byteLength >= PRE_SKIP_AT + 2 ? view.getUint16(PRE_SKIP_AT, true) : 0;
}
