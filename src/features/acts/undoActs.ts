import { toast } from 'sonner';
import type { Act } from '@/features/acts/act';
import { useProjectStore } from '@/features/project/projectStore';
import { redo, undo } from '@/features/project/session';
import { settled } from '@/features/project/settling';

const group = 'Undo';

const noneLeft = (which: 'undo' | 'redo') => () => (useProjectStore.getState()[which].length === 0 ? 'nothing left' : null);

function back(way: typeof undo, said: string): void {
  void settled().then(() => {
    const words = way();
    if (words) toast.message(`${said}: ${words}`, { id: 'undo', duration: 1800 });
  });
}

/** Taking back what was done. */
export const undoActs: readonly Act[] = [
  {
    id: 'undo',
    group,
    words: () => `Undo ${useProjectStore.getState().undo.at(-1)?.words ?? ''}`.trim(),
    keys: ['Mod+Z'],
    hindrance: noneLeft('undo'),
    run: () => back(undo, 'Undone'),
  },
  {
    id: 'redo',
    group,
    words: () => `Redo ${useProjectStore.getState().redo.at(-1)?.words ?? ''}`.trim(),
    keys: ['Mod+Shift+Z', 'Mod+Y'],
    hindrance: noneLeft('redo'),
    run: () => back(redo, 'Done again'),
  },
];
