import type { Size } from '@/core/document/model';
import { isEvenSize, pictureBytes, READY_PICTURES_BYTES, sizeText } from '@/core/document/size';
import { KNOWN_RATES, nominalRate, type Rate, rateName, sameRate } from '@/core/time/rate';
import { hasDropFrame } from '@/core/time/timecode';

/** Something a choice brings with it: whether it rules something out, or is only good to know. */
export type Consequence = { readonly rulesOut: boolean; readonly words: string };

const ruledOut = (words: string): Consequence => ({ rulesOut: true, words });
const toKnow = (words: string): Consequence => ({ rulesOut: false, words });

/** What a picture size brings with it later. Films with 4:2:0 sampling take even sides only (H.264, common practice). */
export function consequencesOfSize(size: Size): readonly Consequence[] {
  const told: Consequence[] = [];
  if (!isEvenSize(size))
    told.push(
      ruledOut(`${sizeText(size)} rules out films: H.264 and VP9 here need an even width and height. Numbered pictures take any size.`),
    );
  const mebibytes = pictureBytes(size) / 1024 / 1024;
  const ready = Math.floor(READY_PICTURES_BYTES / pictureBytes(size));
  if (ready < 48) {
    told.push(
      toKnow(
        `One picture takes ${mebibytes.toFixed(0)} MiB of memory: ${ready} can be held ready for playing, so longer loops of many pictures may play late.`,
      ),
    );
  }
  return told;
}

/*
 * Timecode without drop-frame counts nominal frames a second; a rate of num/den is slower than its nominal
 * rate r by the factor num / (r·den), so an hour of timecode lasts 3600·r·den/num seconds.
 */
function timecodeLag(rate: Rate): number {
  return (3600 * nominalRate(rate) * rate.den) / rate.num - 3600;
}

/** What a rate brings with it later: timecode (SMPTE ST 12-1), GIF times in 1/100 s (GIF89a), rates other programs know. */
export function consequencesOfRate(rate: Rate): readonly Consequence[] {
  const told: Consequence[] = [];
  if (hasDropFrame(rate))
    told.push(toKnow(`Timecode at ${rateName(rate)} is drop-frame: numbers are skipped so that it keeps up with the clock; no frame is.`));
  else if (rate.den !== 1) {
    told.push(
      toKnow(
        `There is no drop-frame at ${rateName(rate)}: an hour of timecode lasts ${Math.abs(timecodeLag(rate)).toFixed(1)} s ${timecodeLag(rate) > 0 ? 'more' : 'less'} than an hour.`,
      ),
    );
  }
  if (!KNOWN_RATES.some((known) => sameRate(known.rate, rate))) {
    told.push(ruledOut(`${rateName(rate)} is not one of the usual rates: broadcasters and many editing programs don't take it.`));
  }
  if (rate.num > 50 * rate.den)
    told.push(ruledOut(`${rateName(rate)} rules out GIF: its shortest time that browsers keep is 2/100 s, 50 pictures a second.`));
  return told;
}
