'use client';
import type { VanishingRule } from '@/core/conform/conformLevel';
import type { ScopeKind } from '@/features/format/formatStore';
import { type RateChangeState, WAYS } from '@/features/format/useRateChange';
import { Choice } from '@/ui/Choice';

const VANISHING: readonly { value: VanishingRule; label: string; title: string }[] = [
  { value: 'refuse', label: 'don’t', title: 'Change nothing while a drawing would get no frame' },
  { value: 'keep', label: 'keep a frame each', title: 'Each keeps one frame; those after it begin later until there is room' },
  { value: 'leaveOut', label: 'leave them out', title: 'They stay on their level, exposed nowhere' },
];

/** The way of a rate change, and what to do with drawings that would get no frame. */
export function RateForm({ change }: { change: RateChangeState }) {
  const { way, scopeKind, vanishing, think, shot, plan } = change;
  const vanish = plan.ok && plan.value.vanishing.length > 0;
  const scopes: readonly { value: ScopeKind; label: string; title: string }[] = [
    { value: 'project', label: 'the film', title: 'The whole project goes to the new rate' },
    { value: 'shot', label: `shot ${shot?.code ?? ''} only`, title: 'This shot was planned at that rate; it is brought to the film’s' },
  ];
  return (
    <div className="space-y-1.5">
      <Choice label="Which part" value={scopeKind} options={scopes} onChange={(next) => think({ scopeKind: next })} />
      <Choice label="What is kept" value={way} options={WAYS} onChange={(next) => think({ way: next })} />
      {vanish && (
        <div className="space-y-1">
          <p className="text-rust text-xs">
            {plan.value.vanishing.length} would get no frame: {plan.value.vanishing.slice(0, 5).join(', ')}
            {plan.value.vanishing.length > 5 ? ' …' : ''}
          </p>
          <Choice
            label="Drawings that would get no frame"
            value={vanishing}
            options={VANISHING}
            onChange={(next) => think({ vanishing: next })}
          />
        </div>
      )}
    </div>
  );
}
