import { type EncodedPacket, EncodedPacketSink, type InputTrack, type PacketRetrievalOptions } from 'mediabunny';

/**
 * The packets of a track in the order they are stored. Each is asked for when the one before was taken: the library's own walk keeps
 * the time of every packet of the last second in a list whose first it takes off again and again, which at a hundred thousand a second
 * takes longer than all else.
 */
export async function* eachPacket(track: InputTrack, options: PacketRetrievalOptions = {}): AsyncGenerator<EncodedPacket> {
  const sink = new EncodedPacketSink(track);
  for (let packet = await sink.getFirstPacket(options); packet; packet = await sink.getNextPacket(packet, options)) yield packet;
}
