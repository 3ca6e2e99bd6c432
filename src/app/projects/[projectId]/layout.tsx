import { OpenProject } from '@/app/projects/[projectId]/OpenProject';

export default async function ProjectLayout({ children, params }: LayoutProps<'/projects/[projectId]'>) {
  return (
    <>
      <OpenProject projectId={(await params).projectId} />
      {children}
    </>
  );
}
