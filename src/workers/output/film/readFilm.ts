import { BlobSource, Input, type InputVideoTrack, IsobmffInputFormat, MATROSKA, MP4, QTFF, VideoSampleSink, WEBM } from 'mediabunny';
import { type ReadBack, type ReadFrame, Undecodable } from '@/core/count/readBack';
import { signatureOfPlanes } from '@/core/raster/signature';
import { colourWords } from '@/workers/output/film/colourWords';
import { decoderDigest } from '@/workers/output/film/decoderDigest';
import { editListOf, readFilmTimes } from '@/workers/output/film/filmTimes';
import { PlaneReader } from '@/workers/output/film/framePlanes';
import { outsideFrames } from '@/workers/output/film/outsideFrames';
import { readSound } from '@/workers/output/film/readSound';

const opened = (file: Blob): Input => new Input({ source: new BlobSource(file), formats: [MP4, QTFF, WEBM, MATROSKA] });

/** Opens a film: the times of its frames, the digest of each one's packet, its frames decoded as a player shows them, and its sound. */
export async function readFilm(file: Blob, stop: AbortSignal, copyAt: string | null = null): Promise<ReadBack> {
  const input = opened(file);
  try {
    const track = await input.getPrimaryVideoTrack();
    if (!track) throw new Error('The written file holds no film.');
    const isMp4 = (await input.getFormat()) instanceof IsobmffInputFormat;
    const { shownSeconds, packetDigests, keyFrames, ...times } = await readFilmTimes(track, isMp4 ? await editListOf(file) : null, isMp4);
    const size = { width: await track.getCodedWidth(), height: await track.getCodedHeight() };
    const isOutside = copyAt !== null && !(await canDecode(track));
    const config = await track.getDecoderConfig();
    const colours = colourWords(await track.getColorSpace());
    return {
      size,
      times,
      packetDigests: packetDigests(),
      colours: () => colours,
      decoderDigest: config && (await decoderDigest(config)),
      keyFrames,
      loop: null,
      sound: await readSound(opened(file), file, !isMp4, stop),
      frames: isOutside ? outsideFrames(file, copyAt, size, stop) : shownFrames(input, track, shownSeconds, stop),
    };
  } catch (error) {
    input.dispose();
    throw error;
  }
}

/** Whether this browser has a decoder for a track. */
const canDecode = async (track: InputVideoTrack): Promise<boolean> => (await track.getCodec()) !== null && track.canDecode();

/** Decodes every frame a player shows and gives it as often as it is shown. Throws `Undecodable` where this browser can't. */
async function* shownFrames(
  input: Input,
  track: InputVideoTrack,
  shownSeconds: readonly number[],
  stop: AbortSignal,
): AsyncGenerator<ReadFrame> {
  const reader = new PlaneReader();
  const stampOf = (seconds: number) => Math.round(seconds * 1e6);
  const timesShown = new Map<number, number>();
  for (const seconds of shownSeconds) timesShown.set(stampOf(seconds), (timesShown.get(stampOf(seconds)) ?? 0) + 1);
  // The graphics card's decoder is quicker at watching; here every frame is copied out, which it is slow at.
  const sink = new VideoSampleSink(track, { hardwareAcceleration: 'prefer-software' });
  try {
    for await (const sample of sink.samples()) {
      let signature: Uint8Array;
      const shown = timesShown.get(stampOf(sample.timestamp)) ?? 0;
      try {
        stop.throwIfAborted();
        if (shown === 0) continue;
        const { data, planes } = await reader.read(sample);
        signature = signatureOfPlanes(data, planes);
      } finally {
        sample.close();
      }
      for (let time = 0; time < shown; time++) yield { name: null, picture: { kind: 'near', signature }, digest: null };
    }
  } catch (error) {
    if (stop.aborted) throw error;
    throw new Undecodable(error instanceof Error ? error.message : 'its decoder gave no reason');
  } finally {
    input.dispose();
  }
}
