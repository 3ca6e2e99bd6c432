/*
 * GIF's LZW (GIF89a, appendix F): codes of a growing number of bits, the lowest first, in blocks of up to 255 bytes. 2^n clears
 * the table, 2^n + 1 ends; each code but the first after a clearing adds what the code before stood for and the first index of
 * this one. At 12 bits the table is full and stays.
 */

const MOST_CODES = 4096;

/** The indices of a picture; what is missing of a broken one is 0. */
export function unpackLzw(bytes: Uint8Array, dataAt: number, codeSize: number, pixels: number): Uint8Array {
  const out = new Uint8Array(pixels);
  const [clear, end] = [1 << codeSize, (1 << codeSize) + 1];
  const prefix = new Int16Array(MOST_CODES);
  const suffix = new Uint8Array(MOST_CODES);
  const lengths = new Uint16Array(MOST_CODES);
  for (let code = 0; code < clear; code++) {
    suffix[code] = code;
    lengths[code] = 1;
  }
  let [next, bits, before, written] = [end + 1, codeSize + 1, -1, 0];
  let [held, heldBits] = [0, 0];
  let [at, blockEnd] = [dataAt, dataAt];

  const readByte = (): number => {
    if (at === blockEnd) {
      const length = bytes[at] ?? 0;
      if (length === 0 || at + length >= bytes.length) return -1;
      at++;
      blockEnd = at + length;
    }
    return bytes[at++] ?? -1;
  };
  /** Writes what a code stands for, from its last index back; gives its first. */
  const write = (code: number): number => {
    const length = lengths[code] as number;
    let from = code;
    let first = 0;
    for (let place = written + length - 1; place >= written; place--) {
      first = suffix[from] as number;
      if (place < pixels) out[place] = first;
      from = prefix[from] as number;
    }
    written += length;
    return first;
  };

  while (written < pixels) {
    while (heldBits < bits) {
      const byte = readByte();
      if (byte < 0) return out;
      held |= byte << heldBits;
      heldBits += 8;
    }
    const code = held & ((1 << bits) - 1);
    held >>>= bits;
    heldBits -= bits;
    if (code === end) return out;
    if (code === clear) {
      [next, bits, before] = [end + 1, codeSize + 1, -1];
      continue;
    }
    if (code > next || (before < 0 && code >= clear)) return out;
    if (before >= 0 && next < MOST_CODES) {
      prefix[next] = before;
      lengths[next] = (lengths[before] as number) + 1;
      // A code that is only being made begins as the one before does.
      let first = code === next ? before : code;
      while (first > end) first = prefix[first] as number;
      suffix[next] = suffix[first] as number;
      next++;
      if (next === 1 << bits && bits < 12) bits++;
    }
    if (code >= next) return out;
    write(code);
    before = code;
  }
  return out;
}
