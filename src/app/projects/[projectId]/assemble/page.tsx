import { AssembleStage } from '@/features/assemble/AssembleStage';

export default function AssemblePage() {
  return <AssembleStage />;
}
