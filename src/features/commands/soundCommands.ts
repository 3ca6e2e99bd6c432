import { create } from 'zustand';
import { chooseFiles } from '@/features/commands/bringFiles';
import type { Command } from '@/features/commands/command';
import { inView } from '@/features/project/hooks';

/** Whether the window with the sounds of the open shot is open. */
export const useSoundsStore = create<{ readonly isOpen: boolean }>(() => ({ isOpen: false }));

export const openSounds = (): void => useSoundsStore.setState({ isOpen: true });

const noShot = () => (inView() ? null : 'no shot is open');

/** What is done with sounds. */
export const soundCommands: readonly Command[] = [
  { id: 'sounds', group: 'Sound', words: () => 'Sounds of this shot …', keys: ['Alt+M'], hindrance: noShot, run: openSounds },
  {
    id: 'bring-sound',
    group: 'Sound',
    words: () => 'Bring in a recording …',
    keys: ['Alt+B'],
    hindrance: noShot,
    run: () => chooseFiles('recordings'),
  },
];
