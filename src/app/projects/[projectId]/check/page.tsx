import { CheckStage } from '@/features/check/CheckStage';

export default function CheckPage() {
  return <CheckStage />;
}
