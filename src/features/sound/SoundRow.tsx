'use client';
import { Ear, Pin, PinOff, Trash2, Volume2, VolumeX } from 'lucide-react';
import type { Project } from '@/core/document/model';
import { framesOfSound, LEAST_GAIN_DECIBELS, MOST_GAIN_DECIBELS, type SoundChange, secondsOfSamples } from '@/core/document/sound';
import type { Edit } from '@/core/edit/edit';
import { framesLeftOut, moveSound, trimSound } from '@/core/edit/soundEdits';
import type { Outcome } from '@/core/outcome';
import { giveToShot, pinToReel, placeOnReel } from '@/core/reel/placeSound';
import type { ReelSound } from '@/core/reel/sounds';
import { countText, parseMoment, plural } from '@/core/time/counts';
import { contextIn, take } from '@/features/project/editContext';
import { toggleSolo, useSoloStore } from '@/features/project/solo';
import { useViewStore } from '@/features/project/viewStore';
import { WaveStrip } from '@/features/sound/WaveStrip';
import { make } from '@/features/sync/session';
import { Button } from '@/ui/Button';
import { CommitCell } from '@/ui/CommitCell';
import { toast } from '@/ui/toast';

const wholeNumber = (text: string): number | null => (/^[+-]?\d{1,7}$/.test(text.trim()) ? Number(text) : null);

function tell(words: string): void {
  toast.message(words);
}

/** A number of a sound that is written over in its place. */
function SoundNumber({ label, words, value, onCommit }: { label: string; words: string; value: number; onCommit: (text: string) => void }) {
  return (
    <span className="flex items-center gap-1">
      {words}
      <CommitCell label={label} value={String(value)} onCommit={onCommit} className="numbers w-14 border-line! bg-paper! text-right" />
    </span>
  );
}

type Props = {
  readonly project: Project;
  /** A sound where it is heard; its frames count from the reel's first, or, in the panel of a shot, from the shot's. */
  readonly heard: ReelSound;
  /** Whether it stands in a panel of the reel, and moves from shot to shot as it is placed. */
  readonly onReel?: boolean;
};

/** What is settled about one sound: its name, where it starts, how much of its recording is heard, how loud, how it fades. */
export function SoundRow({ project, heard, onReel = false }: Props) {
  const { rate, firstFrameNumber: firstNumber } = project;
  const { shot, whole: sound, startFrame } = heard;
  const now = useViewStore((state) => (onReel ? state.reelFrame : state.frame));
  const isSolo = useSoloStore((state) => state.soundIds.has(sound.id));
  const owner = shot ? `shot ${shot.code}` : 'the reel';
  const context = { shot, firstNumber };
  const change = (part: SoundChange) => make({ type: 'changeSound', shotId: shot?.id ?? null, soundId: sound.id, change: part });
  const left = framesLeftOut(sound, rate);
  const frames = framesOfSound(sound, rate);
  const first = startFrame + firstNumber;
  const numbers = frames === 1 ? `${first}` : `${first}–${first + frames - 1}`;
  const placeOn = (frame: number) =>
    take(shot && !onReel ? moveSound(contextIn(project, shot), sound, frame, rate) : placeOnReel(project, heard, frame));
  const startOn = (text: string) => {
    const start = parseMoment(text, rate, firstNumber);
    if (start.ok) placeOn(start.value);
    else tell(start.reason);
  };
  const trim = (startFrames: number | null, endFrames: number | null) => {
    if (startFrames === null || endFrames === null) tell('Trim in whole frames, as 12.');
    else take(trimSound(context, sound, startFrames, endFrames, rate));
  };
  const fade = (which: 'fadeInFrames' | 'fadeOutFrames') => (text: string) => {
    const value = wholeNumber(text);
    if (value === null || value < 0) tell('A fade has a whole number of frames, as 12; 0 is none.');
    else change({ [which]: value });
  };
  const rehome = (edit: Outcome<Edit>) => {
    if (edit.ok) take(edit, true);
    else tell(edit.reason);
  };
  return (
    <li aria-label={`Sound ${sound.name}`} className="space-y-1.5 border-line border-b py-2.5 last:border-0">
      <div className="flex items-center gap-1">
        <CommitCell
          label={`Name of ${sound.name}`}
          value={sound.name}
          maxLength={60}
          onCommit={(name) => change({ name })}
          className="min-w-0 flex-1 font-bold"
        />
        <Button
          tight
          kind={isSolo ? 'dark' : 'quiet'}
          aria-pressed={isSolo}
          aria-label={`Solo ${sound.name}`}
          title={isSolo ? 'Heard alone: press to hear all again' : 'Hear it alone while listening; all are handed over'}
          onClick={() => toggleSolo(sound.id)}
        >
          <Ear size={14} />
        </Button>
        <Button
          tight
          kind="quiet"
          aria-pressed={sound.muted}
          aria-label={sound.muted ? `Unmute ${sound.name}` : `Mute ${sound.name}`}
          title={sound.muted ? 'Muted: press to unmute it' : 'Mute'}
          onClick={() => change({ muted: !sound.muted })}
        >
          {sound.muted ? <VolumeX size={14} /> : <Volume2 size={14} />}
        </Button>
        {onReel && (
          <Button
            tight
            kind="quiet"
            aria-label={shot ? `Pin ${sound.name} to the reel` : `Let ${sound.name} move with its shot`}
            title={
              shot
                ? `It moves with ${owner}: press to pin it to the reel`
                : 'It stays on the reel: press to let it move with the shot there'
            }
            onClick={() => rehome(shot ? pinToReel(project, heard) : giveToShot(project, heard))}
          >
            {shot ? <Pin size={14} /> : <PinOff size={14} />}
          </Button>
        )}
        <Button
          tight
          kind="quiet"
          aria-label={`Remove ${sound.name} from ${owner}`}
          title={`Remove ${sound.name} from ${owner}; undo brings it back`}
          onClick={() => make({ type: 'removeSound', shotId: shot?.id ?? null, soundId: sound.id })}
        >
          <Trash2 size={14} />
        </Button>
      </div>
      <WaveStrip sound={sound} />
      <p className="numbers text-2xs text-soft">
        {secondsOfSamples(sound.samples, sound.recording.sampleRate)} s · {plural(frames, 'frame')}, {numbers}
        {onReel && ` · of ${owner}`} · {sound.recording.fileName}, {countText(sound.recording.sampleRate)}/s
      </p>
      <div className="flex flex-wrap items-center gap-x-3 gap-y-1 text-xs">
        <span className="flex items-center gap-1">
          <SoundNumber
            words="starts on"
            label={`Frame ${sound.name} starts on`}
            value={startFrame - heard.cutFrames + firstNumber}
            onCommit={startOn}
          />
          <Button tight disabled={now === startFrame} onClick={() => placeOn(now)}>
            current frame
          </Button>
        </span>
        <span className="flex items-center gap-1">
          <SoundNumber
            words="trim start"
            label={`Frames trimmed from the start of ${sound.name}`}
            value={left.startFrames}
            onCommit={(text) => trim(wholeNumber(text), left.endFrames)}
          />
          <SoundNumber
            words="fr · end"
            label={`Frames trimmed from the end of ${sound.name}`}
            value={left.endFrames}
            onCommit={(text) => trim(left.startFrames, wholeNumber(text))}
          />
          fr
        </span>
        <span className="flex items-center gap-1">
          <SoundNumber
            words="fade in"
            label={`Frames ${sound.name} fades in over`}
            value={sound.fadeInFrames}
            onCommit={fade('fadeInFrames')}
          />
          <SoundNumber
            words="fr · out"
            label={`Frames ${sound.name} fades out over`}
            value={sound.fadeOutFrames}
            onCommit={fade('fadeOutFrames')}
          />
          fr
        </span>
        <SoundNumber
          words="level (dB)"
          label={`Level of ${sound.name} in dB`}
          value={sound.gainDecibels}
          onCommit={(text) => {
            const gainDecibels = wholeNumber(text);
            if (gainDecibels === null || gainDecibels < LEAST_GAIN_DECIBELS || gainDecibels > MOST_GAIN_DECIBELS)
              tell(`A sound’s level goes from ${LEAST_GAIN_DECIBELS} to +${MOST_GAIN_DECIBELS} dB in whole numbers; 0 is as recorded.`);
            else change({ gainDecibels });
          }}
        />
      </div>
    </li>
  );
}
