import type { SoundFacts } from '@/core/analysis/facts';
import type { Finding } from '@/core/check/finding';
import type { Project, Shot } from '@/core/document/model';
import type { Sound } from '@/core/document/sound';
import { everySound } from '@/core/reel/sounds';
import { countText } from '@/core/time/counts';

function troubleWords({ name, recording }: Sound, sounds: SoundFacts): string | null {
  const fact = sounds.get(recording.original);
  if (!fact) return null;
  if (fact === 'missing')
    return `The recording of ${name}, ${recording.fileName}, is not in the store: it is silent until it is brought in again`;
  if (fact === 'broken')
    return `The recording of ${name}, ${recording.fileName}, can’t be read any more: it is silent until it is brought in again`;
  if (fact.samples === recording.samples && fact.sampleRate === recording.sampleRate) return null;
  return `${recording.fileName} of sound ${name} held ${countText(recording.samples)} samples at ${countText(recording.sampleRate)} a second when it was brought in, and is read as ${countText(fact.samples)} at ${countText(fact.sampleRate)} here`;
}

const found = (shot: Shot | null, sound: Sound, words: string): Finding => {
  const frame = shot && Math.min(sound.startFrame, shot.frames - 1);
  return {
    id: `missing-sound ${sound.id}`,
    kind: 'missing-sound',
    group: 'pictures',
    breaks: 'check-assemble',
    sentence: `${words}.`,
    place: shot && frame !== null ? { shotId: shot.id, levelId: null, fromFrame: frame, toFrame: frame } : null,
    fixes: [
      {
        way: 'take-out',
        words: `Remove ${sound.name} from ${shot ? `shot ${shot.code}` : 'the reel'}`,
        step: { type: 'removeSound', shotId: shot?.id ?? null, soundId: sound.id },
      },
    ],
  };
};

/** Sounds whose recording is not in the store, can't be read, or is read as another length than was counted. */
export const missingSound = (project: Project, sounds: SoundFacts): readonly Finding[] =>
  everySound(project).flatMap(({ shot, sound }) => {
    const words = troubleWords(sound, sounds);
    return words === null ? [] : [found(shot, sound, words)];
  });
