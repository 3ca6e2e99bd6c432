import { notFound } from 'next/navigation';
import { isStage } from '@/features/path/stages';

/** A stage's address. The workspace around it shows the stage: it goes from one to the other without asking the server. */
export default async function StagePage({ params }: PageProps<'/projects/[projectId]/[stage]'>) {
  if (!isStage((await params).stage)) notFound();
  return null;
}
