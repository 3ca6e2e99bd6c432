'use client';
import type { ReactNode } from 'react';
import { useDeskView } from '@/features/path/deskView';
import type { Stage } from '@/features/path/stages';
import { Later, part } from '@/ui/later';

const planStage = part(async () => (await import('@/features/plan/PlanStage')).PlanStage);
const drawStage = part(async () => (await import('@/features/draw/DrawStage')).DrawStage);
const checkStage = part(async () => (await import('@/features/check/CheckStage')).CheckStage);
const assembleStage = part(async () => (await import('@/features/assemble/AssembleStage')).AssembleStage);
const handoverStage = part(async () => (await import('@/features/handover/HandoverStage')).HandoverStage);

const countingDesk = part(async () => (await import('@/features/counting/ProjectDesk')).ProjectDesk);

/** What leaves, or what came back. */
function HandOver() {
  const isCounting = useDeskView((state) => state.isCounting);
  return isCounting ? <Later key="counting" of={countingDesk} props={{}} /> : <Later key="leaving" of={handoverStage} props={{}} />;
}

const pastPage = part(async () => (await import('@/features/past/PastPage')).PastPage);

/** What was. */
export const PAST_VIEW: ReactNode = <Later of={pastPage} props={{}} />;

/** Goes on with handovers that were asked for before the page was left. */
export const queueKeeper = part(async () => (await import('@/features/handover/QueueKeeper')).QueueKeeper);

/** The stage that is open comes first; the others follow once the page is calm. */
export const STAGE_VIEWS: Readonly<Record<Stage, ReactNode>> = {
  plan: <Later of={planStage} props={{}} />,
  draw: <Later of={drawStage} props={{}} />,
  check: <Later of={checkStage} props={{}} />,
  assemble: <Later of={assembleStage} props={{}} />,
  'hand-over': <HandOver />,
};
