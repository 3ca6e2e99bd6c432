import type { Command } from '@/features/commands/command';
import { setLook, THEMES, type Theme, useLookStore } from '@/ui/look';

const WORDS: Readonly<Record<Theme, string>> = { system: 'Theme: as the system has it', day: 'Theme: day', night: 'Theme: night' };

/** Commands on how the program looks. */
export const lookCommands: readonly Command[] = [
  ...THEMES.map(
    (theme): Command => ({ id: `look-${theme}`, group: 'Stages', words: () => WORDS[theme], keys: [], run: () => setLook({ theme }) }),
  ),
  {
    id: 'look-contrast',
    group: 'Stages',
    words: () => (useLookStore.getState().moreContrast ? 'Less contrast' : 'More contrast'),
    keys: [],
    run: () => setLook({ moreContrast: !useLookStore.getState().moreContrast }),
  },
];
