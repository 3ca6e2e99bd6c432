'use client';
import { Plus } from 'lucide-react';
import { useMemo } from 'react';
import type { Shot } from '@/core/document/model';
import { framesOfSound } from '@/core/document/sound';
import { type ReelSound, soundsOverShot } from '@/core/reel/sounds';
import { chooseFiles } from '@/features/commands/bringFiles';
import { hint } from '@/features/commands/everyCommand';
import { useProject } from '@/features/project/hooks';
import { SoundRow } from '@/features/sound/SoundRow';
import { Button } from '@/ui/Button';

/** The sounds of a shot, with what is settled about each, and those of earlier shots that go on over it. */
export function SoundsPanel({ shot }: { shot: Shot }) {
  const project = useProject();
  const heard = useMemo(() => soundsOverShot(project, shot.id), [project, shot.id]);
  const own = shot.sounds.map((sound): ReelSound => {
    const { startFrame } = sound;
    const endFrame = startFrame + framesOfSound(sound, project.rate);
    return { sound, whole: sound, cutFrames: 0, shot, itemId: null, startFrame, endFrame };
  });
  const others = heard.filter(({ whole }) => !shot.sounds.includes(whole));
  return (
    <>
      <ul aria-label={`Sounds of shot ${shot.code}`}>
        {own.map((sound) => (
          <SoundRow key={sound.whole.id} project={project} heard={sound} />
        ))}
      </ul>
      {shot.sounds.length === 0 && <p className="py-2 text-soft">No sound starts in shot {shot.code}.</p>}
      {others.map(({ sound, shot: other, endFrame }) => (
        <p key={sound.id} className="py-1 text-soft text-xs">
          {sound.name} of {other ? `shot ${other.code}` : 'the reel'} goes on over this one, to frame{' '}
          {endFrame - 1 + project.firstFrameNumber}.
        </p>
      ))}
      <Button onClick={() => chooseFiles('recordings')} title={hint('Bring in a recording', 'bring-sound')} className="mt-1">
        <Plus size={13} /> Bring in a recording
      </Button>
    </>
  );
}
