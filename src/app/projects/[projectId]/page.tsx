import { redirect } from 'next/navigation';

export default async function ProjectPage({ params }: PageProps<'/projects/[projectId]'>) {
  redirect(`/projects/${(await params).projectId}/plan`);
}
