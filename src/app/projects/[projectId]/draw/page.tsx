import { DrawStage } from '@/features/draw/DrawStage';

export default function DrawPage() {
  return <DrawStage />;
}
