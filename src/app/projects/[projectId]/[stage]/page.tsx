import { notFound } from 'next/navigation';
import { isStage, PAST } from '@/features/path/stages';

/** The address of a stage, or of the past. The workspace around it shows the stage: it goes from one to the other without asking the server. */
export default async function StagePage({ params }: PageProps<'/projects/[projectId]/[stage]'>) {
  const { stage } = await params;
  if (!isStage(stage) && stage !== PAST) notFound();
  return null;
}
