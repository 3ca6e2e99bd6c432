import { Workspace } from '@/features/workspace/Workspace';

export default async function ProjectLayout({ children, params }: LayoutProps<'/projects/[projectId]'>) {
  return <Workspace projectId={(await params).projectId}>{children}</Workspace>;
}
