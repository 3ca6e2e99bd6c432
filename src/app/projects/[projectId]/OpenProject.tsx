'use client';
import { PAST_VIEW, queueKeeper, STAGE_VIEWS } from '@/app/projects/[projectId]/stages';
import { Workspace } from '@/features/workspace/Workspace';
import { Later } from '@/ui/later';

/** An open project with all its stages. */
export function OpenProject({ projectId }: { projectId: string }) {
  return (
    <>
      <Workspace projectId={projectId} stages={STAGE_VIEWS} past={PAST_VIEW} />
      <Later of={queueKeeper} props={{}} />
    </>
  );
}
