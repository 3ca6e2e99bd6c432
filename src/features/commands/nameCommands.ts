import { done } from '@/core/outcome';
import { ask } from '@/features/commands/ask';
import type { Command } from '@/features/commands/command';
import { inView } from '@/features/project/hooks';
import { useProjectStore } from '@/features/sync/projectStore';
import { serverRetryer } from '@/features/sync/server';
import { toast } from '@/ui/toast';

const name = (label: string, start: string) => [{ id: 'name', label, start }];

/** Names, and the word for those who look for how to save. */
export const nameCommands: readonly Command[] = [
  {
    id: 'rename-project',
    group: 'Film',
    words: () => 'Rename the project …',
    keys: [],
    run: () => {
      const { project } = useProjectStore.getState();
      if (!project) return;
      ask({
        title: 'Rename the project',
        about: 'Its title is shown on the shelf and in the names of files that are handed over.',
        confirm: 'Rename',
        fields: name('Title', project.title),
        read: ({ name: title = '' }) => done({ says: `Title “${title.trim()}”`, step: { type: 'renameProject', title: title.trim() } }),
      });
    },
  },
  {
    id: 'rename-shot',
    group: 'Shots',
    words: () => 'Rename the shot …',
    keys: [],
    hindrance: () => (inView() ? null : 'no shot'),
    run: () => {
      const { shot } = inView() ?? {};
      if (!shot) return;
      ask({
        title: `Rename shot ${shot.code}`,
        about: 'Its code keeps its place in the names of files; its name says what happens in it.',
        confirm: 'Rename',
        fields: [
          { id: 'code', label: 'Code', start: shot.code },
          { id: 'name', label: 'Name', start: shot.name },
        ],
        read: ({ code = '', name: words = '' }) =>
          done({
            says: `Shot ${code.trim()} ${words.trim()}`,
            step: { type: 'describeShot', shotId: shot.id, code: code.trim(), name: words.trim() },
          }),
      });
    },
  },
  {
    id: 'rename-level',
    group: 'Levels',
    words: () => `Rename ${inView()?.level?.name ?? 'the level'} …`,
    keys: [],
    hindrance: () => (inView()?.level ? null : 'no level'),
    run: () => {
      const { shot, level } = inView() ?? {};
      if (!shot || !level) return;
      ask({
        title: `Rename ${level.name}`,
        about: 'The name of a level is shown above its column.',
        confirm: 'Rename',
        fields: name('Name', level.name),
        read: ({ name: words = '' }) =>
          done({
            says: `Level ${words.trim()}`,
            step: { type: 'describeLevel', shotId: shot.id, levelId: level.id, change: { name: words.trim() } },
          }),
      });
    },
  },
  {
    id: 'save-now',
    group: 'Film',
    words: () => 'Save now (everything saves itself)',
    keys: ['Mod+S'],
    run: () => {
      serverRetryer.wake();
      const { kept, waitingSteps, settling } = useProjectStore.getState();
      toast.message(
        kept === 'kept' && settling === 0
          ? 'Everything is saved. Every change saves itself as you make it.'
          : `${waitingSteps + settling} changes are on their way; they are safe in this browser until they are saved.`,
        { id: 'save-now' },
      );
    },
  },
];
