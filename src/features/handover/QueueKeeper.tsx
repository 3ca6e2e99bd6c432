'use client';
import { useEffect } from 'react';
import { takeOverQueues } from '@/features/handover/queueStore';
import { useProjectStore } from '@/features/sync/projectStore';

/** Goes on with handovers that were asked for before the page was left, whichever stage is open. */
export function QueueKeeper() {
  const projectId = useProjectStore((state) => state.project?.id);
  useEffect(() => {
    if (projectId) void takeOverQueues();
  }, [projectId]);
  return null;
}
