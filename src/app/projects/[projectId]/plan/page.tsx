import { PlanStage } from '@/features/plan/PlanStage';

export default function PlanPage() {
  return <PlanStage />;
}
