import type { ReactNode } from 'react';
import { AssembleStage } from '@/features/assemble/AssembleStage';
import { CheckStage } from '@/features/check/CheckStage';
import { DrawStage } from '@/features/draw/DrawStage';
import { HandoverStage } from '@/features/handover/HandoverStage';
import { QueueKeeper } from '@/features/handover/QueueKeeper';
import type { Stage } from '@/features/path/stages';
import { PlanStage } from '@/features/plan/PlanStage';
import { Workspace } from '@/features/workspace/Workspace';

/** Every stage comes with the page, so that a server that stops later can't keep one from being shown. */
const STAGE_VIEWS: Readonly<Record<Stage, ReactNode>> = {
  plan: <PlanStage />,
  draw: <DrawStage />,
  check: <CheckStage />,
  assemble: <AssembleStage />,
  'hand-over': <HandoverStage />,
};

export default async function ProjectLayout({ children, params }: LayoutProps<'/projects/[projectId]'>) {
  return (
    <>
      <Workspace projectId={(await params).projectId} stages={STAGE_VIEWS} />
      <QueueKeeper />
      {children}
    </>
  );
}
