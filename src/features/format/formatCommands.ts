import type { Command } from '@/features/commands/command';
import { useFormatStore } from '@/features/format/formatStore';

const group = 'Film';

/** Commands on what holds for the whole film. */
export const formatCommands: readonly Command[] = [
  { id: 'rate', group, words: () => 'Change the rate …', keys: ['Alt+R'], run: () => useFormatStore.setState({ open: 'rate' }) },
  {
    id: 'format',
    group,
    words: () => 'Change the picture size or the first frame’s number …',
    keys: ['Alt+F'],
    run: () => useFormatStore.setState({ open: 'format' }),
  },
];
