'use client';
import { hint } from '@/features/acts/everyAct';
import { openSounds } from '@/features/acts/soundActs';
import { SOUND_PX } from '@/features/sheet/SoundColumn';

/** The head of the column of sounds: a press opens what is settled about each. */
export function SoundHead() {
  return (
    <span role="columnheader" aria-colindex={2} className="min-w-0 shrink-0" style={{ width: SOUND_PX }}>
      <button
        type="button"
        tabIndex={-1}
        onClick={openSounds}
        title={hint('Sounds: where each starts, how much of it is heard, how loud', 'sounds')}
        className="block w-full truncate text-left font-bold text-teal text-xs leading-[15px]"
      >
        Sound
      </button>
    </span>
  );
}
