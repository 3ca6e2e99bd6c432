'use client';
import { useEffect } from 'react';
import type { ProjectId } from '@/core/document/model';
import { placedById } from '@/core/reel/reel';
import { useAssembleStore } from '@/features/assemble/assembleStore';
import { keepSeen, toldSince } from '@/features/assemble/lastSeen';
import { useProject } from '@/features/project/hooks';
import { goToReelFrame } from '@/features/project/navigation';
import { useViewStore } from '@/features/project/viewStore';
import { useProjectStore } from '@/features/sync/projectStore';
import { Button } from '@/ui/Button';

/** Tells what changed on the reel since the stage was left last, once as it is entered: what is done here needs no telling. */
export function useUpstream(projectId: ProjectId): void {
  useEffect(() => {
    const { project } = useProjectStore.getState();
    if (project?.id === projectId) useAssembleStore.setState({ told: toldSince(project) });
    return () => {
      const { project: now } = useProjectStore.getState();
      if (now?.id === projectId) keepSeen(now, useAssembleStore.getState().told);
    };
  }, [projectId]);
}

/** What moved on the reel since somebody was here last, to be gone through and dismissed; nothing when nothing did. */
export function Upstream() {
  const project = useProject();
  const told = useAssembleStore((state) => state.told);
  if (told.length === 0) return null;
  const go = (itemId: string | null) => {
    const placed = itemId ? placedById(project, itemId) : undefined;
    if (!placed) return;
    useViewStore.setState({ reelSelection: [placed.item.id] });
    goToReelFrame(placed.startFrame);
  };
  return (
    <section aria-label="Since you were last here" className="max-h-40 overflow-y-auto border-line border-b p-3">
      <div className="flex items-center justify-between gap-2 pb-1">
        <h3 className="font-semibold text-xs">Since you were last here</h3>
        <Button tight kind="quiet" onClick={() => useAssembleStore.setState({ told: [] })}>
          Dismiss
        </Button>
      </div>
      <ul className="space-y-0.5 text-xs">
        {told.map((change, index) => (
          // biome-ignore lint/suspicious/noArrayIndexKey: sentences may be alike, and never change places
          <li key={index}>
            {change.itemId ? (
              <button type="button" className="text-left underline decoration-edge hover:decoration-ink" onClick={() => go(change.itemId)}>
                {change.sentence}
              </button>
            ) : (
              change.sentence
            )}
          </li>
        ))}
      </ul>
    </section>
  );
}
