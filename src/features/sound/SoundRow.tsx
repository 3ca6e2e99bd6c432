'use client';
import { Trash2, Volume2, VolumeX } from 'lucide-react';
import { toast } from 'sonner';
import type { Project, Shot } from '@/core/document/model';
import {
  framesOfSound,
  LEAST_GAIN_DECIBELS,
  MOST_GAIN_DECIBELS,
  type Sound,
  type SoundChange,
  secondsOfSamples,
} from '@/core/document/sound';
import { framesLeftOut, moveSound, trimSound } from '@/core/edit/soundEdits';
import { countText, parseMoment, plural } from '@/core/time/counts';
import { contextIn, take } from '@/features/project/editContext';
import { useViewStore } from '@/features/project/viewStore';
import { WaveStrip } from '@/features/sound/WaveStrip';
import { make } from '@/features/sync/session';
import { Button } from '@/ui/Button';
import { CommitCell } from '@/ui/CommitCell';

const wholeNumber = (text: string): number | null => (/^[+-]?\d{1,7}$/.test(text.trim()) ? Number(text) : null);

function tell(words: string): void {
  toast.message(words);
}

/** What is settled about one sound: its name, where it starts, how much of its recording is heard, how loud. */
export function SoundRow({ project, shot, sound }: { project: Project; shot: Shot; sound: Sound }) {
  const { rate, firstFrameNumber: firstNumber } = project;
  const frame = useViewStore((state) => Math.min(state.frame, shot.frames - 1));
  const context = contextIn(project, shot);
  const change = (part: SoundChange) => make({ type: 'changeSound', shotId: shot.id, soundId: sound.id, change: part });
  const left = framesLeftOut(sound, rate);
  const frames = framesOfSound(sound, rate);
  const first = sound.startFrame + firstNumber;
  const numbers = frames === 1 ? `${first}` : `${first}–${first + frames - 1}`;
  const startOn = (text: string) => {
    const start = parseMoment(text, rate, firstNumber);
    if (start.ok) take(moveSound(context, sound, start.value, rate));
    else tell(start.reason);
  };
  const trim = (startFrames: number | null, endFrames: number | null) => {
    if (startFrames === null || endFrames === null) tell('Trim in whole frames, as 12.');
    else take(trimSound(context, sound, startFrames, endFrames, rate));
  };
  const field = 'numbers w-14 border-line! bg-paper! text-right';
  return (
    <li aria-label={`Sound ${sound.name}`} className="space-y-1.5 border-line border-b py-2.5 last:border-0">
      <div className="flex items-center gap-1.5">
        <CommitCell
          label={`Name of ${sound.name}`}
          value={sound.name}
          maxLength={60}
          onCommit={(name) => change({ name })}
          className="min-w-0 flex-1 font-bold"
        />
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
        <Button
          tight
          kind="quiet"
          aria-label={`Remove ${sound.name} from shot ${shot.code}`}
          title={`Remove ${sound.name} from shot ${shot.code}; undo brings it back`}
          onClick={() => make({ type: 'removeSound', shotId: shot.id, soundId: sound.id })}
        >
          <Trash2 size={14} />
        </Button>
      </div>
      <WaveStrip sound={sound} />
      <p className="numbers text-2xs text-soft">
        {secondsOfSamples(sound.samples, sound.recording.sampleRate)} s · {plural(frames, 'frame')}, {numbers} · {sound.recording.fileName},{' '}
        {countText(sound.recording.sampleRate)}/s
      </p>
      <div className="flex flex-wrap items-center gap-x-3 gap-y-1 text-xs">
        <span className="flex items-center gap-1">
          starts on
          <CommitCell
            label={`Frame ${sound.name} starts on`}
            value={String(sound.startFrame + firstNumber)}
            onCommit={startOn}
            className={field}
          />
          <Button tight disabled={frame === sound.startFrame} onClick={() => take(moveSound(context, sound, frame, rate))}>
            current frame
          </Button>
        </span>
        <span className="flex items-center gap-1">
          trim start
          <CommitCell
            label={`Frames trimmed from the start of ${sound.name}`}
            value={String(left.startFrames)}
            onCommit={(text) => trim(wholeNumber(text), left.endFrames)}
            className={field}
          />
          fr · end
          <CommitCell
            label={`Frames trimmed from the end of ${sound.name}`}
            value={String(left.endFrames)}
            onCommit={(text) => trim(left.startFrames, wholeNumber(text))}
            className={field}
          />
          fr
        </span>
        <span className="flex items-center gap-1">
          level (dB)
          <CommitCell
            label={`Level of ${sound.name} in dB`}
            value={String(sound.gainDecibels)}
            onCommit={(text) => {
              const gainDecibels = wholeNumber(text);
              if (gainDecibels === null || gainDecibels < LEAST_GAIN_DECIBELS || gainDecibels > MOST_GAIN_DECIBELS)
                tell(`A sound’s level goes from ${LEAST_GAIN_DECIBELS} to +${MOST_GAIN_DECIBELS} dB in whole numbers; 0 is as recorded.`);
              else change({ gainDecibels });
            }}
            className={field}
          />
        </span>
      </div>
    </li>
  );
}
