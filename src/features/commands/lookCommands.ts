import type { Command } from '@/features/commands/command';
import { setLook, THEMES, type Theme, useLookStore } from '@/ui/look';
import { foldPanel, type Side, stagePanels } from '@/ui/stagePanels';

const WORDS: Readonly<Record<Theme, string>> = { system: 'Theme: as the system has it', day: 'Theme: day', night: 'Theme: night' };

const SIDES: readonly { readonly side: Side; readonly key: string }[] = [
  { side: 'left', key: 'Alt+8' },
  { side: 'right', key: 'Alt+9' },
];

/** Commands on how the program looks. */
export const lookCommands: readonly Command[] = [
  ...SIDES.map(
    ({ side, key }): Command => ({
      id: `fold-${side}`,
      group: 'Stages',
      words: () => (stagePanels[side]?.isCollapsed() ? `Show the ${side} panel` : `Fold the ${side} panel`),
      keys: [key],
      hindrance: () => (stagePanels[side] ? null : 'no panel at this side'),
      run: () => foldPanel(side),
    }),
  ),
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
