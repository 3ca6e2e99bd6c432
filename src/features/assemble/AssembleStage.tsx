'use client';
import { Tabs } from 'radix-ui';
import { type AssembleTab, TABS, useAssembleStore } from '@/features/assemble/assembleStore';
import { FinishPanel } from '@/features/assemble/FinishPanel';
import { FinishTag } from '@/features/assemble/FinishTag';
import { ItemPanel } from '@/features/assemble/ItemPanel';
import { ReelPanel } from '@/features/assemble/ReelPanel';
import { ReelSoundsPanel } from '@/features/assemble/ReelSoundsPanel';
import { ReelStrip } from '@/features/assemble/ReelStrip';
import { useUpstream } from '@/features/assemble/Upstream';
import { Player } from '@/features/clock/Player';
import { useProject } from '@/features/project/hooks';
import { Fitted } from '@/ui/Fitted';

const TAB_WORDS: Record<AssembleTab, string> = { reel: 'Reel', item: 'Item', sounds: 'Sounds', finish: 'Finish' };

const TRIGGER =
  'border-transparent border-b-2 px-1 py-2 font-semibold text-soft text-xs hover:text-ink data-[state=active]:border-lime data-[state=active]:text-ink';

/** Putting the film together: the picture large, the reel beneath it on its measure, what is chosen at the right. */
export function AssembleStage() {
  const project = useProject();
  const tab = useAssembleStore((state) => state.tab);
  useUpstream(project.id);
  return (
    <div className="grid h-full grid-cols-[minmax(0,1fr)_316px] grid-rows-[minmax(0,1fr)_auto] gap-2.5 max-[640px]:h-auto max-[900px]:grid-cols-[minmax(0,1fr)] max-[640px]:grid-rows-[300px_400px_auto] max-[900px]:grid-rows-[minmax(0,3fr)_minmax(0,2fr)_auto]">
      <section aria-label="Picture" className="panel flex bg-desk! p-3">
        <Fitted width={project.size.width} height={project.size.height} className="flex-1">
          <Player className="h-full w-full" />
          <FinishTag />
        </Fitted>
      </section>
      <section aria-label="The reel" className="panel flex min-h-0 flex-col overflow-hidden">
        <Tabs.Root
          value={tab}
          onValueChange={(value) => useAssembleStore.setState({ tab: value as AssembleTab })}
          className="flex min-h-0 flex-1 flex-col"
        >
          <Tabs.List aria-label="About the reel" className="flex shrink-0 gap-4 border-line border-b px-3">
            {TABS.map((value) => (
              <Tabs.Trigger key={value} value={value} className={TRIGGER}>
                {TAB_WORDS[value]}
              </Tabs.Trigger>
            ))}
          </Tabs.List>
          <Tabs.Content value="reel" className="flex min-h-0 flex-1 flex-col">
            <ReelPanel />
          </Tabs.Content>
          <Tabs.Content value="item" className="flex min-h-0 flex-1 flex-col">
            <ItemPanel />
          </Tabs.Content>
          <Tabs.Content value="sounds" className="flex min-h-0 flex-1 flex-col">
            <ReelSoundsPanel />
          </Tabs.Content>
          <Tabs.Content value="finish" className="flex min-h-0 flex-1 flex-col">
            <FinishPanel />
          </Tabs.Content>
        </Tabs.Root>
      </section>
      <div className="col-span-2 min-w-0 max-[900px]:col-span-1">
        <ReelStrip />
      </div>
    </div>
  );
}
