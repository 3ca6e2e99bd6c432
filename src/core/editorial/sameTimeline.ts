import { type EditorialTimeline, placedClips } from '@/core/format/editorial';
import { plural } from '@/core/time/counts';
import { sameRate } from '@/core/time/rate';

/* A timeline that was written is read back by the reader of its format and held against what was to be written. */

/** A name on one line, as a list has it. */
const plain = (name: string): string => name.replace(/\s+/g, ' ').trim();

/** What doesn't come back as it was written, each a sentence; none where all does. `knowsRate` is false for a format that says no rate. */
export function lostOf(written: EditorialTimeline, read: EditorialTimeline, knowsRate: boolean): readonly string[] {
  const lost: string[] = [];
  if (knowsRate && !sameRate(written.rate, read.rate)) lost.push('It came back at another rate.');
  if (written.startFrame !== read.startFrame) lost.push('It came back beginning on another timecode.');
  const own = written.tracks.filter(({ items }) => items.some(({ kind }) => kind === 'clip'));
  const theirs = read.tracks.filter(({ items }) => items.some(({ kind }) => kind === 'clip'));
  if (own.length !== theirs.length) lost.push(`It came back with ${plural(theirs.length, 'track')} of ${own.length}.`);
  for (const [index, track] of own.entries()) {
    const [meant, back] = [placedClips(track), theirs[index] ? placedClips(theirs[index]) : []];
    for (const [place, clip] of meant.entries()) {
      const other = back[place];
      const isSame =
        other !== undefined &&
        other.startFrame === clip.startFrame &&
        other.frames === clip.frames &&
        other.sourceFrame === clip.sourceFrame &&
        plain(other.name) === plain(clip.name);
      if (!isSame) lost.push(`${track.name}: ${clip.name} came back with other frames.`);
    }
    if (back.length > meant.length) lost.push(`${track.name} came back with ${plural(back.length - meant.length, 'clip')} more.`);
  }
  return lost;
}

/** How much a timeline holds: `3 clips and 2 sounds`. */
export function timelineWords({ tracks }: EditorialTimeline): string {
  const count = (kind: 'picture' | 'sound') =>
    tracks.filter((track) => track.kind === kind).reduce((sum, track) => sum + placedClips(track).length, 0);
  const sounds = count('sound');
  return `${plural(count('picture'), 'clip')}${sounds > 0 ? ` and ${plural(sounds, 'sound')}` : ''}`;
}
