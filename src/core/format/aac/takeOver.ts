import { type PacketWindows, packetWindows } from '@/core/format/aac/packetWindows';

const alike = (a: PacketWindows | null, b: PacketWindows | null): boolean =>
  a !== null && b !== null && a.sequence === b.sequence && a.shape === b.shape && a.areShared === b.areShared;

/**
 * The packet of a sound, from `fromPacket` to `toPacket` (not included), with which the later of two coders takes over: the one before
 * it has the same windows with both. Where both channels' windows are known that is certain; else where the first channel's
 * are alike, and where none are, `fromPacket`. `earlier` and `later` give a coder's packet by its place in the sound.
 */
export function takeOverPacket(
  fromPacket: number,
  toPacket: number,
  earlier: (packet: number) => Uint8Array | undefined,
  later: (packet: number) => Uint8Array | undefined,
): number {
  let likely: number | null = null;
  for (let packet = fromPacket; packet < toPacket; packet++) {
    const [before, after] = [earlier(packet - 1), later(packet - 1)];
    if (!before || !after || !earlier(packet) || !later(packet)) break;
    const windows = packetWindows(before);
    if (!alike(windows, packetWindows(after))) continue;
    if (windows?.areShared) return packet;
    likely ??= packet;
  }
  return likely ?? fromPacket;
}
