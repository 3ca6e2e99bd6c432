'use client';
import type { ReactNode } from 'react';
import { DeskVerdict } from '@/features/counting/DeskVerdict';
import { type CountedThing, type PlanView, useDeskStore } from '@/features/counting/deskStore';
import { Boundary } from '@/ui/Boundary';
import type { DeskHeld } from '@/workers/client';

/** What a thing on the desk looks like as something others are held against. */
function useOtherThing(): PlanView | null {
  const against = useDeskStore((state) => state.against);
  const things = useDeskStore((state) => state.things);
  const other = against.kind === 'thing' ? things.find(({ id }) => id === against.id) : undefined;
  if (other?.kind !== 'counted') return null;
  const { count } = other;
  return {
    side: { kind: 'thing', id: other.id },
    name: other.name,
    size: { width: count.width || 16, height: count.height || 9 },
    firstNumber: count.sequence?.firstNumber ?? 1,
  };
}

/** The middle of the desk. `plan` is what of the open project things are held against; null for none of it. */
export function DeskMiddle({ plan, acts }: { plan: PlanView | null; acts: (held: DeskHeld, thing: CountedThing) => ReactNode }) {
  const against = useDeskStore((state) => state.against);
  const other = useOtherThing();
  return (
    <section aria-label="What was found" className="panel min-h-0 overflow-hidden">
      <Boundary what="What was found" className="h-full">
        <DeskVerdict
          plan={against.kind === 'plan' ? (against.view ?? plan) : other}
          againstName={against.kind === 'nothing' ? 'nothing' : against.name}
          acts={acts}
        />
      </Boundary>
    </section>
  );
}
