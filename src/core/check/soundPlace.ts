import type { Finding } from '@/core/check/finding';
import type { Project } from '@/core/document/model';
import { sampleOfFrame, secondsOfSamples, wholeFramesOfSamples } from '@/core/document/sound';
import type { Step } from '@/core/edit/step';
import { placeOnReel } from '@/core/reel/placeSound';
import { framesOfReel, reelOf, reelShotAt } from '@/core/reel/reel';
import { type ReelSound, soundsOfReel } from '@/core/reel/sounds';
import { countText, plural } from '@/core/time/counts';
import { secondsText } from '@/core/time/seconds';

const takeOut = ({ shot, sound }: ReelSound) => ({
  way: 'take-out',
  words: `Remove ${sound.name} from shot ${shot.code}`,
  step: { type: 'removeSound', shotId: shot.id, soundId: sound.id } as const,
});

/** A sound that is over before one frame is: at the rate of the film it is hardly there. */
function shorterThanFrame(heard: ReelSound, { rate, firstFrameNumber: firstNumber }: Project): readonly Finding[] {
  const { shot, sound } = heard;
  const { sampleRate } = sound.recording;
  const ofFrame = sampleOfFrame(1, rate, sampleRate);
  if (wholeFramesOfSamples(sound.samples, rate, sampleRate) > 0) return [];
  return [
    {
      id: `sound-short ${sound.id}`,
      kind: 'sound-short',
      group: 'counts',
      breaks: 'check-assemble',
      sentence: `Sound ${sound.name} on frame ${sound.startFrame + firstNumber} of ${shot.code} lasts ${secondsOfSamples(sound.samples, sampleRate)} s (${plural(sound.samples, 'sample')}), less than a frame: that is ${secondsText(1, rate)} s (${countText(ofFrame)}).`,
      place: {
        shotId: shot.id,
        levelId: null,
        fromFrame: Math.min(sound.startFrame, shot.frames - 1),
        toFrame: Math.min(sound.startFrame, shot.frames - 1),
      },
      fixes: [takeOut(heard)],
    },
  ];
}

/** A sound that starts after its shot is over: it is heard in another, and would move with this one. */
function startsPastShot(heard: ReelSound, project: Project): readonly Finding[] {
  const { shot, sound, startFrame } = heard;
  if (sound.startFrame < shot.frames) return [];
  const { firstFrameNumber: firstNumber } = project;
  const there = reelShotAt(project, startFrame);
  const lastFrame: Step = { type: 'changeSound', shotId: shot.id, soundId: sound.id, change: { startFrame: shot.frames - 1 } };
  const rehomed = there ? placeOnReel(project, shot, sound, startFrame) : null;
  const moved = rehomed?.ok
    ? {
        way: 'rehome',
        words: `Move it to shot ${there?.shot.code}: it is heard at the same time`,
        step: rehomed.value.step,
      }
    : null;
  const where = there
    ? `it is heard in shot ${there.shot.code}, from frame ${startFrame - there.startFrame + firstNumber}`
    : 'it is never heard, since the film is over';
  return [
    {
      id: `sound-start ${sound.id}`,
      kind: 'sound-start',
      group: 'counts',
      breaks: 'check-assemble',
      sentence: `Sound ${sound.name} starts on frame ${sound.startFrame + firstNumber} of shot ${shot.code}, which ends with frame ${shot.frames - 1 + firstNumber}: ${where}.`,
      place: { shotId: shot.id, levelId: null, fromFrame: shot.frames - 1, toFrame: shot.frames - 1 },
      fixes: [...(moved ? [moved] : []), { way: 'last-frame', words: `Start it on the last frame of ${shot.code}`, step: lastFrame }],
    },
  ];
}

/** A sound that goes on for a frame and more after the film's last one: what leaves would cut it, or last longer than the picture. */
function endsPastReel(heard: ReelSound, project: Project): readonly Finding[] {
  const { shot, sound, startFrame } = heard;
  const { rate } = project;
  const { sampleRate } = sound.recording;
  const total = framesOfReel(project);
  if (startFrame >= total) return [];
  const room = sampleOfFrame(total - startFrame, rate, sampleRate);
  const over = wholeFramesOfSamples(sound.samples - room, rate, sampleRate);
  if (over < 1) return [];
  const lastFrame = reelOf(project).at(-1)?.shot === shot ? shot.frames - 1 : Math.min(sound.startFrame, shot.frames - 1);
  return [
    {
      id: `sound-end ${sound.id}`,
      kind: 'sound-end',
      group: 'counts',
      breaks: 'check-assemble',
      sentence: `Sound ${sound.name} ends ${plural(over, 'frame')} after the film: it lasts ${secondsOfSamples(sound.samples, sampleRate)} s from frame ${startFrame + project.firstFrameNumber} of the reel on, which has ${secondsOfSamples(room, sampleRate)} s left (${plural(total, 'frame')} in all).`,
      place: { shotId: shot.id, levelId: null, fromFrame: lastFrame, toFrame: lastFrame },
      fixes: [
        {
          way: 'cut-to-film',
          words: `Cut ${sound.name} where the film ends`,
          step: { type: 'changeSound', shotId: shot.id, soundId: sound.id, change: { samples: room } },
        },
      ],
    },
  ];
}

const sameWords = (a: string, b: string) => a.trim().toLowerCase() === b.trim().toLowerCase();

/** An accent on the sheet that is called as a sound is, and stands on another frame than the sound starts on. */
function accentElsewhere({ shot, sound }: ReelSound, { firstFrameNumber: firstNumber }: Project): readonly Finding[] {
  const accents = shot.notes.filter((note) => note.kind === 'accent' && sameWords(note.words, sound.name));
  const alone = shot.sounds.filter((other) => sameWords(other.name, sound.name)).length === 1;
  const [accent] = accents;
  if (!accent || accents.length > 1 || !alone || accent.frame === sound.startFrame) return [];
  const late = sound.startFrame - accent.frame;
  const notes = shot.notes
    .filter((note) => note !== accent && !(note.kind === 'accent' && note.frame === sound.startFrame))
    .concat({ ...accent, frame: sound.startFrame })
    .toSorted((a, b) => a.frame - b.frame);
  return [
    {
      id: `sound-accent ${sound.id}`,
      kind: 'sound-accent',
      group: 'counts',
      breaks: 'check-assemble',
      sentence: `The accent “${accent.words}” of shot ${shot.code} is written on frame ${accent.frame + firstNumber}, its sound starts on frame ${sound.startFrame + firstNumber}: ${plural(Math.abs(late), 'frame')} ${late > 0 ? 'late' : 'early'}.`,
      place: { shotId: shot.id, levelId: null, fromFrame: accent.frame, toFrame: accent.frame },
      fixes: [
        {
          way: 'move-sound',
          words: `Start the sound on frame ${accent.frame + firstNumber}`,
          step: { type: 'changeSound', shotId: shot.id, soundId: sound.id, change: { startFrame: accent.frame } },
        },
        {
          way: 'move-accent',
          words: `Write the accent on frame ${sound.startFrame + firstNumber}`,
          step: { type: 'setNotes', shotId: shot.id, notes },
        },
      ],
    },
  ];
}

/** Sounds whose place doesn't agree with the picture's: too short for a frame, past their shot, past the film, beside their accent. */
export const soundPlace = (project: Project): readonly Finding[] =>
  soundsOfReel(project).flatMap((heard) => [
    ...shorterThanFrame(heard, project),
    ...startsPastShot(heard, project),
    ...endsPastReel(heard, project),
    ...accentElsewhere(heard, project),
  ]);
