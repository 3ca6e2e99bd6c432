'use client';
import { useEffect, useState } from 'react';
import { PAST_VIEW, queueKeeper, STAGE_VIEWS } from '@/app/projects/[projectId]/stages';
import { Workspace } from '@/features/workspace/Workspace';
import { Later, whenCalm } from '@/ui/later';

/** An open project with all its stages. */
export function OpenProject({ projectId }: { projectId: string }) {
  const [isCalm, setCalm] = useState(false);
  useEffect(() => whenCalm(() => setCalm(true)), []);
  return (
    <>
      <Workspace projectId={projectId} stages={STAGE_VIEWS} past={PAST_VIEW} />
      {isCalm && <Later of={queueKeeper} isWindow props={{}} />}
    </>
  );
}
