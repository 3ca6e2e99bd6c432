import { STOP } from '@/core/words';
import type { Making } from '@/features/handover/useMaking';
import { Button } from '@/ui/Button';

/** How far something is that is being made, with what stops it. */
export function HowFar({ what, making }: { what: string; making: Making }) {
  return (
    <div className="flex items-center gap-2 text-xs">
      <span className="numbers">
        {what}: {Math.round((making.part ?? 0) * 100)} %
      </span>
      <Button onClick={making.stop}>{STOP}</Button>
    </div>
  );
}
