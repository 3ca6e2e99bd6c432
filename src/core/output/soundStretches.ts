import { SOUND_FRAME_SAMPLES, type SoundCodec } from '@/core/output/film';
import { MIX_RATE } from '@/core/reel/mix';

/*
 * Coding AAC takes longest of all kinds of sound, and one coder uses one core. So a long sound is cut into stretches, each with a
 * coder of its own. Packet k of a film's AAC is made of the samples from (k − 1)·n to (k + 1)·n (not included; n samples a packet):
 * a packet overlaps its neighbours by half, and a decoder adds the halves. A coder that begins at sample (k − a)·n gives as its
 * packet a what a coder of the whole gives as packet k, but for what it remembers of before: how many bits it may spend, and how loud
 * it was lately. So every coder begins LEAD packets early, and goes on TAIL packets beyond its end; where two overlap, the film
 * goes over to the next one's packets at a packet before which both took the very same windows, so that the halves fit.
 */

/** A stretch of a sound: packets from `fromPacket` to `toPacket` of the film are meant to be its coder's, who is given samples from `fromSample` to `toSample` (ends not included). */
export type SoundStretch = {
  readonly fromPacket: number;
  readonly toPacket: number;
  readonly fromSample: number;
  readonly toSample: number;
};

/** Packets a coder gives before its first is wanted: it has found its measure by then. */
export const LEAD_PACKETS = 24;
/** Packets a coder goes on after its last is meant to be taken, among which the next one may take over. */
export const TAIL_PACKETS = 24;
/** Packets of a tail that a coder has surely given once it has all the tail's samples: it holds a few back. */
export const JOIN_PACKETS = TAIL_PACKETS - 4;
/** Long enough that beginning a coder doesn't count, short enough that what waits for it is small. */
const STRETCH_SECONDS = 20;

/**
 * How a sound of `samples` is cut for so many coders, which take stretches in turn, as evenly as packets allow; one stretch for what codes
 * quickly, for what is short, and for a single coder, which would be given the overlaps of two at once.
 */
export function soundStretches(codec: SoundCodec, samples: number, coders: number): readonly SoundStretch[] {
  const packetSamples = SOUND_FRAME_SAMPLES[codec];
  const count = codec === 'aac' && coders > 1 ? Math.max(1, Math.round(samples / (STRETCH_SECONDS * MIX_RATE))) : 1;
  if (count === 1) return [{ fromPacket: 0, toPacket: Number.POSITIVE_INFINITY, fromSample: 0, toSample: samples }];
  const packets = Math.ceil(samples / packetSamples);
  return Array.from({ length: count }, (_, index) => {
    const [fromPacket, next] = [Math.floor((packets * index) / count), Math.floor((packets * (index + 1)) / count)];
    const isLast = index === count - 1;
    return {
      fromPacket,
      toPacket: isLast ? Number.POSITIVE_INFINITY : next,
      fromSample: Math.max(0, fromPacket - LEAD_PACKETS) * packetSamples,
      toSample: isLast ? samples : Math.min(samples, (next + TAIL_PACKETS) * packetSamples),
    };
  });
}

/** Which packet of the film is the first that a stretch's coder gives. */
export const firstPacketOf = ({ fromPacket }: SoundStretch): number => Math.max(0, fromPacket - LEAD_PACKETS);
