'use client';
import { AudioLines } from 'lucide-react';
import { hint } from '@/features/commands/everyCommand';
import { openSounds } from '@/features/commands/soundCommands';

/** The head of the column of sounds: a press opens what is settled about each. */
export function SoundHead({ widthPx }: { widthPx: number }) {
  return (
    <span role="columnheader" aria-colindex={2} className="shrink-0" style={{ width: widthPx }}>
      <button
        type="button"
        tabIndex={-1}
        onClick={openSounds}
        aria-label="Sound"
        title={hint('Sounds: where each starts, how much of it is heard, how loud', 'sounds')}
        className="flex h-[30px] w-full items-center text-teal"
      >
        <AudioLines size={16} />
      </button>
    </span>
  );
}
