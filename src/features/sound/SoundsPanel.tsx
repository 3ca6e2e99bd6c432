'use client';
import { Plus } from 'lucide-react';
import { useMemo } from 'react';
import type { Shot } from '@/core/document/model';
import { soundsOverShot } from '@/core/reel/sounds';
import { chooseFiles } from '@/features/commands/bringFiles';
import { hint } from '@/features/commands/everyCommand';
import { useProject } from '@/features/project/hooks';
import { SoundRow } from '@/features/sound/SoundRow';
import { Button } from '@/ui/Button';

/** The sounds of a shot, with what is settled about each, and those of earlier shots that go on over it. */
export function SoundsPanel({ shot }: { shot: Shot }) {
  const project = useProject();
  const others = useMemo(() => soundsOverShot(project, shot.id).filter((heard) => heard.shot?.id !== shot.id), [project, shot.id]);
  return (
    <>
      <ul aria-label={`Sounds of shot ${shot.code}`}>
        {shot.sounds.map((sound) => (
          <SoundRow key={sound.id} project={project} shot={shot} sound={sound} />
        ))}
      </ul>
      {shot.sounds.length === 0 && <p className="py-2 text-soft">No sound starts in shot {shot.code}.</p>}
      {others.map(({ sound, shot: own, endFrame }) => (
        <p key={sound.id} className="py-1 text-soft text-xs">
          {sound.name} of {own ? `shot ${own.code}` : 'the reel'} goes on over this one, to frame {endFrame - 1 + project.firstFrameNumber}.
        </p>
      ))}
      <Button onClick={() => chooseFiles('recordings')} title={hint('Bring in a recording', 'bring-sound')} className="mt-1">
        <Plus size={13} /> Bring in a recording
      </Button>
    </>
  );
}
