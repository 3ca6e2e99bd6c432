import type { Finding } from '@/core/check/finding';
import type { Project } from '@/core/document/model';
import { type Sound, secondsOfSamples } from '@/core/document/sound';
import { framesOfReel, placedShots } from '@/core/reel/reel';
import { everySound } from '@/core/reel/sounds';
import { plural } from '@/core/time/counts';
import { KNOWN_RATES, type Rate, rateName } from '@/core/time/rate';
import { secondsText } from '@/core/time/seconds';

/** The known rate that comes nearest to so many frames lasting as long as a sound, when they don't at the film's own; null when none does. */
function rateOfSound({ samples, recording }: Sound, own: Rate, frames: number): Rate | null {
  const apart = ({ num, den }: Rate) => Math.abs((samples * num) / (den * recording.sampleRate) - frames);
  if (apart(own) < 1) return null;
  const nearest = KNOWN_RATES.map(({ rate }) => rate).reduce((best, rate) => (apart(rate) < apart(best) ? rate : best));
  return apart(nearest) < 0.5 ? nearest : null;
}

/*
 * A sound that goes with a film, or with a shot, from its first frame on and would be as long as it at another rate
 * was made for that rate: 96 frames are 4 s at 24 and 3.84 s at 25. Told only when the two lengths are a frame or
 * more apart here and less than half a frame there.
 */
export function soundRate(project: Project): readonly Finding[] {
  const total = framesOfReel(project);
  const first = placedShots(project)[0];
  return everySound(project).flatMap(({ shot, sound }): Finding[] => {
    if (sound.startFrame !== 0) return [];
    const startsFilm = shot === null || (first?.shot === shot && first.startFrame === 0 && first.fromFrame === 0);
    const wholes = [
      ...(startsFilm ? [{ what: 'the film', frames: total }] : []),
      ...(shot && project.shots.length > 1 ? [{ what: `shot ${shot.code}`, frames: shot.frames }] : []),
    ];
    const [found] = wholes.flatMap(({ what, frames }) => {
      const rate = rateOfSound(sound, project.rate, frames);
      return rate ? [{ what, frames, rate }] : [];
    });
    if (!found) return [];
    const { sampleRate } = sound.recording;
    const lasts = secondsOfSamples(sound.samples, sampleRate);
    return [
      {
        id: `sound-rate ${sound.id}`,
        kind: 'sound-rate',
        group: 'counts',
        breaks: 'check-assemble',
        sentence: `Sound ${sound.name} lasts ${lasts} s, as long as the ${plural(found.frames, 'frame')} of ${found.what} would at ${rateName(found.rate)}; at ${rateName(project.rate)} they last ${secondsText(found.frames, project.rate)} s: it was made for another rate.`,
        place: shot && { shotId: shot.id, levelId: null, fromFrame: 0, toFrame: 0 },
        fixes: [],
      },
    ];
  });
}
