/** Bytes of a file: from one (inclusive, from 0) to another (exclusive). */
export type ByteRange = { readonly from: number; readonly to: number };

/**
 * The one range a `Range` header asks for, as RFC 9110, 14.1.2 and 14.2, has it; null when it asks for none, or for something
 * this doesn't serve in parts, which is to be answered with all of it.
 */
export function rangeOf(header: string | null, sizeBytes: number): ByteRange | 'unsatisfiable' | null {
  const [, first = '', last = ''] = /^bytes=(\d*)-(\d*)$/.exec(header?.trim() ?? '') ?? [];
  if (first === '' && last === '') return null;
  if (first === '') {
    const length = Number(last);
    return length === 0 || sizeBytes === 0 ? 'unsatisfiable' : { from: Math.max(0, sizeBytes - length), to: sizeBytes };
  }
  const from = Number(first);
  if (last !== '' && Number(last) < from) return null;
  if (from >= sizeBytes) return 'unsatisfiable';
  return { from, to: last === '' ? sizeBytes : Math.min(sizeBytes, Number(last) + 1) };
}
