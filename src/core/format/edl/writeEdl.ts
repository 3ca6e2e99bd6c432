import { type EditorialTimeline, type PlacedClip, placedClips } from '@/core/format/editorial';
import { done, type Outcome, refused } from '@/core/outcome';
import { rateName } from '@/core/time/rate';
import { hasDropFrame, timecodeOf } from '@/core/time/timecode';

/*
 * An edit decision list (SMPTE ST 258; the layout of columns is common practice):
 *   001  REEL     V     C        source in    source out   record in    record out
 * Outs are exclusive. Every clip is a cut; a gap is where the record goes on later. A remark beneath names a clip whose name is no reel’s.
 */

const MOST_EVENTS = 9999;
const REEL_LETTERS = 8;
/** Channels that lists have. */
const MOST_SOUND_TRACKS = 4;

export type EdlOptions = { readonly drop: boolean };

/** Names of at most eight letters and digits, each different. */
function reelNames(names: readonly string[]): ReadonlyMap<string, string> {
  const taken = new Set<string>();
  return new Map(
    [...new Set(names)].map((name) => {
      const plain =
        name
          .normalize('NFKD')
          .replace(/[^A-Za-z0-9]/g, '')
          .toUpperCase()
          .slice(0, REEL_LETTERS) || 'REEL';
      let reel = plain;
      for (let number = 2; taken.has(reel); number++) reel = `${plain.slice(0, REEL_LETTERS - String(number).length)}${number}`;
      taken.add(reel);
      return [name, reel];
    }),
  );
}

type Event = PlacedClip & { readonly channel: string };

/** The list of a timeline. Refused where its rate has no drop-frame and that is asked for, where there are too many events, and where no clip is. */
export function writeEdl(timeline: EditorialTimeline, { drop }: EdlOptions): Outcome<string> {
  const { rate, startFrame, title, tracks } = timeline;
  if (drop && !hasDropFrame(rate)) return refused(`There is no drop-frame timecode at ${rateName(rate)}: choose non-drop.`);
  const sounds = tracks.filter(({ kind }) => kind === 'sound');
  if (sounds.length > MOST_SOUND_TRACKS)
    return refused(
      `${sounds.length} sounds are heard at once, and a list has ${MOST_SOUND_TRACKS} channels: mute some, or hand the picture over alone.`,
    );
  const events: Event[] = tracks.flatMap((track) => {
    const number = sounds.indexOf(track) + 1;
    const channel = track.kind === 'picture' ? 'V' : number === 1 ? 'A' : `A${number}`;
    return placedClips(track).map((clip) => ({ ...clip, channel }));
  });
  if (events.length === 0) return refused('There is no clip on the reel: the list would be empty.');
  if (events.length > MOST_EVENTS) return refused(`${events.length} events are more than the ${MOST_EVENTS} a list can number.`);
  const reels = reelNames(events.map(({ name }) => name));
  const digits = events.length > 999 ? 4 : 3;
  const at = (frame: number) => timecodeOf(frame, rate, drop);
  const lines = events.flatMap(({ name, channel, sourceFrame, frames, startFrame: start, media, remark }, index) => {
    const from = startFrame + start;
    const times = [at(sourceFrame), at(sourceFrame + frames), at(from), at(from + frames)].join(' ');
    const number = String(index + 1).padStart(digits, '0');
    const file = media?.kind === 'file' ? [`* SOURCE FILE: ${media.fileName}`] : [];
    const said = remark === null ? [] : [`* COMMENT: ${remark}`];
    const event = `${number}  ${(reels.get(name) as string).padEnd(REEL_LETTERS)} ${channel.padEnd(5)} C        ${times}`;
    const named = reels.get(name) === name ? [] : [`* FROM CLIP NAME: ${name.replace(/\s+/g, ' ')}`];
    return [event, ...named, ...file, ...said];
  });
  const head = [`TITLE: ${title.replace(/\s+/g, ' ').toUpperCase()}`, `FCM: ${drop ? 'DROP FRAME' : 'NON-DROP FRAME'}`];
  return done(`${[...head, ...lines].join('\r\n')}\r\n`);
}
