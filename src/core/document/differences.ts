import equal from 'fast-deep-equal';
import type { Project, Shot } from '@/core/document/model';
import { picturesOf } from '@/core/document/originals';
import { sizeText } from '@/core/document/size';
import { plural } from '@/core/time/counts';
import { rateName, sameRate } from '@/core/time/rate';

/* How two states of one project differ, in sentences for whoever chooses between them. */

const drawingsIn = ({ levels }: Shot): number => levels.reduce((sum, { drawings }) => sum + drawings.length, 0);

function differenceOfShots(here: Shot, there: Shot): string | null {
  if (equal(here, there)) return null;
  if (here.frames !== there.frames) return `Shot ${here.code}: ${plural(here.frames, 'frame')} here, ${there.frames} in the other.`;
  if (drawingsIn(here) !== drawingsIn(there))
    return `Shot ${here.code}: ${plural(drawingsIn(here), 'drawing')} here, ${drawingsIn(there)} in the other.`;
  return `Shot ${here.code}: other drawings, exposures or notes.`;
}

/** Each difference of what is `here` from the `other`, a sentence each; none where they are the same. */
export function differencesOf(here: Project, other: Project): readonly string[] {
  const others = new Map(other.shots.map((shot) => [shot.id, shot]));
  const own = new Set(here.shots.map(({ id }) => id));
  const pictures = new Set(picturesOf(here));
  const unknown = picturesOf(other).filter((digest) => !pictures.has(digest)).length;
  const said = [
    here.title === other.title ? null : `Called “${here.title}” here, “${other.title}” in the other.`,
    sameRate(here.rate, other.rate) ? null : `${rateName(here.rate)} frames a second here, ${rateName(other.rate)} in the other.`,
    equal(here.size, other.size) ? null : `${sizeText(here.size)} here, ${sizeText(other.size)} in the other.`,
    ...here.shots.map((shot) => {
      const there = others.get(shot.id);
      return there ? differenceOfShots(shot, there) : `Shot ${shot.code} is only here.`;
    }),
    ...other.shots.map(({ id, code }) => (own.has(id) ? null : `Shot ${code} is only in the other.`)),
    equal(here.reel, other.reel) ? null : 'Other items or sounds on the reel.',
    equal(here.finish, other.finish) ? null : 'Another finish.',
    unknown === 0 ? null : `${plural(unknown, 'picture')} of the other ${unknown === 1 ? 'is' : 'are'} not shown here.`,
  ];
  return said.flatMap((sentence) => sentence ?? []);
}
