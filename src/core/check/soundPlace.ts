import type { Finding, Place } from '@/core/check/finding';
import type { Project, Shot } from '@/core/document/model';
import { type Sound, sampleOfFrame, secondsOfSamples, wholeFramesOfSamples } from '@/core/document/sound';
import type { Step } from '@/core/edit/step';
import { placeOnReel } from '@/core/reel/placeSound';
import { framesOfReel, placedShots, shotAt } from '@/core/reel/reel';
import { type ReelSound, soundsOfReel, unheardSounds } from '@/core/reel/sounds';
import { countText, plural } from '@/core/time/counts';
import { secondsText } from '@/core/time/seconds';

const ownerOf = (shot: Shot | null) => (shot ? `shot ${shot.code}` : 'the reel');

const takeOut = (shot: Shot | null, sound: Sound) => ({
  way: 'take-out',
  words: `Remove ${sound.name} from ${ownerOf(shot)}`,
  step: { type: 'removeSound', shotId: shot?.id ?? null, soundId: sound.id } as const,
});

/** The frame of the shot on which a sound of it starts, or the last there is; for one of the reel, that of the shot that is on then. */
function placeOf(project: Project, { shot, whole, startFrame }: ReelSound): Place | null {
  const at = (of: Shot, frame: number): Place => {
    const within = Math.max(0, Math.min(frame, of.frames - 1));
    return { shotId: of.id, levelId: null, fromFrame: within, toFrame: within };
  };
  if (shot) return at(shot, whole.startFrame);
  const there = shotAt(project, startFrame) ?? placedShots(project).at(-1);
  return there ? at(there.shot, there.fromFrame + startFrame - there.startFrame) : null;
}

/** A sound that is over before one frame is: at the rate of the film it is hardly there. */
function shorterThanFrame(heard: ReelSound, project: Project): readonly Finding[] {
  const { shot, whole: sound } = heard;
  const { rate, firstFrameNumber: firstNumber } = project;
  const { sampleRate } = sound.recording;
  const ofFrame = sampleOfFrame(1, rate, sampleRate);
  if (wholeFramesOfSamples(sound.samples, rate, sampleRate) > 0) return [];
  return [
    {
      id: `sound-short ${sound.id}`,
      kind: 'sound-short',
      group: 'counts',
      breaks: 'check-assemble',
      sentence: `Sound ${sound.name} on frame ${sound.startFrame + firstNumber} of ${shot?.code ?? 'the reel'} lasts ${secondsOfSamples(sound.samples, sampleRate)} s (${plural(sound.samples, 'sample')}), less than a frame: that is ${secondsText(1, rate)} s (${countText(ofFrame)}).`,
      place: placeOf(project, heard),
      fixes: [takeOut(shot, sound)],
    },
  ];
}

/** A sound that starts after its shot is over: it is heard in another, and would move with this one. */
function startsPastShot(heard: ReelSound, project: Project): readonly Finding[] {
  const { shot, whole: sound, startFrame } = heard;
  if (!shot || sound.startFrame < shot.frames) return [];
  const { firstFrameNumber: firstNumber } = project;
  const there = shotAt(project, startFrame);
  const lastFrame: Step = { type: 'changeSound', shotId: shot.id, soundId: sound.id, change: { startFrame: shot.frames - 1 } };
  const rehomed = there ? placeOnReel(project, heard, startFrame) : null;
  const moved = rehomed?.ok
    ? {
        way: 'rehome',
        words: `Move it to shot ${there?.shot.code}: it is heard at the same time`,
        step: rehomed.value.step,
      }
    : null;
  const isOver = startFrame >= framesOfReel(project);
  const where = there
    ? `it is heard in shot ${there.shot.code}, from frame ${startFrame - there.startFrame + there.fromFrame + firstNumber}`
    : isOver
      ? 'it is never heard, since the film is over'
      : 'it is heard over a gap';
  return [
    {
      id: `sound-start ${sound.id}`,
      kind: 'sound-start',
      group: 'counts',
      breaks: 'check-assemble',
      sentence: `Sound ${sound.name} starts on frame ${sound.startFrame + firstNumber} of shot ${shot.code}, which ends with frame ${shot.frames - 1 + firstNumber}: ${where}.`,
      place: placeOf(project, heard),
      fixes: [...(moved ? [moved] : []), { way: 'last-frame', words: `Start it on the last frame of ${shot.code}`, step: lastFrame }],
    },
  ];
}

/** A sound of the reel that starts after the film is over. */
function startsPastReel({ shot, whole: sound, startFrame }: ReelSound, project: Project): readonly Finding[] {
  const total = framesOfReel(project);
  if (shot || startFrame < total) return [];
  const first = project.firstFrameNumber;
  return [
    {
      id: `sound-start ${sound.id}`,
      kind: 'sound-start',
      group: 'counts',
      breaks: 'check-assemble',
      sentence: `Sound ${sound.name} starts on frame ${startFrame + first} of the reel, which ends with frame ${total - 1 + first}: it is never heard.`,
      place: null,
      fixes: [takeOut(null, sound)],
    },
  ];
}

/** A sound that goes on for a frame and more after the film's last one: what leaves would cut it, or last longer than the picture. */
function endsPastReel(heard: ReelSound, project: Project): readonly Finding[] {
  const { shot, sound, whole, startFrame } = heard;
  const { rate } = project;
  const { sampleRate } = sound.recording;
  const total = framesOfReel(project);
  if (startFrame >= total) return [];
  const room = sampleOfFrame(total - startFrame, rate, sampleRate);
  const over = wholeFramesOfSamples(sound.samples - room, rate, sampleRate);
  if (over < 1) return [];
  const last = placedShots(project).at(-1);
  const end = last && (last.shot === shot || !shot) ? { shotId: last.shot.id, frame: last.shot.frames - 1 } : null;
  return [
    {
      id: `sound-end ${sound.id}`,
      kind: 'sound-end',
      group: 'counts',
      breaks: 'check-assemble',
      sentence: `Sound ${sound.name} ends ${plural(over, 'frame')} after the film: it lasts ${secondsOfSamples(sound.samples, sampleRate)} s from frame ${startFrame + project.firstFrameNumber} of the reel on, which has ${secondsOfSamples(room, sampleRate)} s left (${plural(total, 'frame')} in all).`,
      place: end ? { shotId: end.shotId, levelId: null, fromFrame: end.frame, toFrame: end.frame } : placeOf(project, heard),
      fixes: [
        {
          way: 'cut-to-film',
          words: `Cut ${sound.name} where the film ends`,
          step: {
            type: 'changeSound',
            shotId: shot?.id ?? null,
            soundId: sound.id,
            change: { samples: whole.samples - sound.samples + room },
          },
        },
      ],
    },
  ];
}

/** A sound of a trimmed shot that starts before the frames the reel shows: its head is not heard. */
function cutByTrim(heard: ReelSound, project: Project): readonly Finding[] {
  const { shot, sound, whole, cutFrames, startFrame, endFrame } = heard;
  if (!shot || cutFrames === 0) return [];
  const first = project.firstFrameNumber;
  const shownFrom = whole.startFrame + cutFrames;
  return [
    {
      id: `sound-cut ${sound.id}`,
      kind: 'sound-cut',
      group: 'counts',
      breaks: 'check-assemble',
      sentence: `Sound ${sound.name} starts on frame ${whole.startFrame + first} of shot ${shot.code}, which the reel shows from its frame ${shownFrom + first} on: its first ${plural(cutFrames, 'frame')} (${plural(whole.samples - sound.samples, 'sample')}) are cut, and it is heard for ${plural(endFrame - startFrame, 'frame')} from frame ${startFrame + first} of the reel.`,
      place: placeOf(project, heard),
      fixes: [
        {
          way: 'start-with-trim',
          words: `Start it on frame ${shownFrom + first} of ${shot.code}, where the reel begins to show it`,
          step: { type: 'changeSound', shotId: shot.id, soundId: sound.id, change: { startFrame: shownFrom } },
        },
      ],
    },
  ];
}

/** Sounds of trimmed shots that are over before the frames the reel shows, or start after them. */
function leftUnheard(project: Project): readonly Finding[] {
  const first = project.firstFrameNumber;
  return unheardSounds(project).map(({ placed, sound }): Finding => {
    const { shot, fromFrame, startFrame, endFrame } = placed;
    const lastShown = fromFrame + endFrame - startFrame - 1;
    const frame = Math.min(sound.startFrame, shot.frames - 1);
    return {
      id: `sound-unheard ${sound.id}`,
      kind: 'sound-unheard',
      group: 'counts',
      breaks: 'check-assemble',
      sentence: `Sound ${sound.name} starts on frame ${sound.startFrame + first} of shot ${shot.code}, of which the reel shows frames ${fromFrame + first} to ${lastShown + first}: it is not heard.`,
      place: { shotId: shot.id, levelId: null, fromFrame: frame, toFrame: frame },
      fixes: [
        {
          way: 'start-with-trim',
          words: `Start it on frame ${fromFrame + first} of ${shot.code}, where the reel begins to show it`,
          step: { type: 'changeSound', shotId: shot.id, soundId: sound.id, change: { startFrame: fromFrame } },
        },
        takeOut(shot, sound),
      ],
    };
  });
}

const sameWords = (a: string, b: string) => a.trim().toLowerCase() === b.trim().toLowerCase();

/** An accent on the sheet that is called as a sound is, and stands on another frame than the sound starts on. */
function accentElsewhere({ shot, whole: sound }: ReelSound, { firstFrameNumber: firstNumber }: Project): readonly Finding[] {
  if (!shot) return [];
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

/** Each sound where it is heard first: a shot that is on the reel twice has its sounds once. */
function heardFirst(project: Project): readonly ReelSound[] {
  const seen = new Set<string>();
  return soundsOfReel(project).filter(({ whole }) => seen.size < seen.add(whole.id).size);
}

/** Sounds whose place doesn't agree with the picture's: too short for a frame, past their shot, past the film, cut by a trim, beside their accent. */
export const soundPlace = (project: Project): readonly Finding[] => [
  ...heardFirst(project).flatMap((heard) => [
    ...shorterThanFrame(heard, project),
    ...startsPastShot(heard, project),
    ...startsPastReel(heard, project),
    ...endsPastReel(heard, project),
    ...accentElsewhere(heard, project),
  ]),
  ...soundsOfReel(project).flatMap((heard) => cutByTrim(heard, project)),
  ...leftUnheard(project),
];
