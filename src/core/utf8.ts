/** The bytes of a text in UTF-8 (RFC 3629); half of a surrogate pair alone becomes U+FFFD, as everywhere. */
export function utf8(text: string): Uint8Array {
  const bytes: number[] = [];
  for (const letter of text) {
    const read = letter.codePointAt(0) as number;
    const point = read >= 0xd800 && read <= 0xdfff ? 0xfffd : read;
    if (point < 0x80) bytes.push(point);
    else if (point < 0x800) bytes.push(0xc0 | (point >> 6), 0x80 | (point & 63));
    else if (point < 0x10000) bytes.push(0xe0 | (point >> 12), 0x80 | ((point >> 6) & 63), 0x80 | (point & 63));
    else bytes.push(0xf0 | (point >> 18), 0x80 | ((point >> 12) & 63), 0x80 | ((point >> 6) & 63), 0x80 | (point & 63));
  }
  return Uint8Array.from(bytes);
}
