import { HandoverStage } from '@/features/handover/HandoverStage';

export default function HandOverPage() {
  return <HandoverStage />;
}
