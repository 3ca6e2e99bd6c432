/** The element that holds two channels, at the beginning of a block (ISO/IEC 14496-3, table 4.85: ID_CPE). */
const PAIR = 1;

/**
 * The windows a coded block of two channels was taken with: their sequence (0 long, 1 start, 2 eight short, 3 stop) and their shape
 * (0 sine, 1 Kaiser-Bessel). `areShared` says that both channels have them; otherwise they are the first channel's.
 */
export type PacketWindows = { readonly sequence: number; readonly shape: number; readonly areShared: boolean };

/*
 * A raw data block begins (ISO/IEC 14496-3, 4.4.2.1 and tables 4.4 to 4.6) with
 *   element 3 bits, tag 4, common_window 1,
 * and, where the windows are shared, ics_info:
 *   reserved 1, window_sequence 2, window_shape 1;
 * otherwise the first channel's stream stands there, whose gain of 8 bits comes before its ics_info.
 */
const SHARED_AT = 7;
const INFO_AT = 8;
const GAIN_BITS = 8;
/** The last bit that is read lies in the third byte. */
const LEAST_BYTES = 3;

/** What windows an AAC packet's two channels were taken with; null where it doesn't begin with a pair of channels. */
export function packetWindows(packet: Uint8Array): PacketWindows | null {
  if (packet.byteLength < LEAST_BYTES) return null;
  const bits = (at: number, count: number): number => {
    let value = 0;
    for (let bit = at; bit < at + count; bit++) value = value * 2 + (((packet[bit >> 3] as number) >> (7 - (bit & 7))) & 1);
    return value;
  };
  if (bits(0, 3) !== PAIR) return null;
  const areShared = bits(SHARED_AT, 1) === 1;
  const info = areShared ? INFO_AT : INFO_AT + GAIN_BITS;
  return { sequence: bits(info + 1, 2), shape: bits(info + 3, 1), areShared };
}
