'use client';
import { showCountingDesk } from '@/features/path/deskView';
import { Choice } from '@/ui/Choice';

/** Between what leaves and what came back. */
export function DeskSwitch({ isCounting }: { isCounting: boolean }) {
  return (
    <Choice
      label="Side of handing over"
      value={isCounting ? 'count' : 'leave'}
      options={[
        { value: 'leave', label: 'Hand over' },
        { value: 'count', label: 'Counting desk', title: 'Count what came back, and hold it against the plan' },
      ]}
      onChange={(side) => showCountingDesk(side === 'count')}
    />
  );
}
