'use client';

import { useMemo } from 'react';
import { planRateChange, type RatePlan, type RateScope, type RateWay } from '@/core/conform/conform';
import type { Outcome } from '@/core/outcome';
import { refused } from '@/core/outcome';
import { placedItems } from '@/core/reel/reel';
import { parseRate } from '@/core/time/rate';
import { type RateThought, useFormatStore } from '@/features/format/formatStore';
import { useCalmView } from '@/features/project/calmProject';

export const WAYS: readonly { value: RateWay; label: string; title: string }[] = [
  { value: 'keepTime', label: 'keep time', title: 'Every drawing starts when it started, to the nearest frame' },
  { value: 'keepCounts', label: 'keep counts', title: 'Every exposure keeps its frames; the film gets longer or shorter' },
  { value: 'readAs', label: 'read as', title: 'Nothing changes but the clock' },
];

const think = (part: Partial<RateThought>) => useFormatStore.setState(({ rate }) => ({ rate: { ...rate, ...part } }));

/** A rate change being thought about, worked out whenever something in it changes. */
export function useRateChange() {
  const { project, shot } = useCalmView();
  const { way, scopeKind, vanishing, ...thought } = useFormatStore((state) => state.rate);
  const rateText = thought.rateText ?? (project.rate.num === 25 && project.rate.den === 1 ? '24' : '25');
  const rate = parseRate(rateText);
  const plan = useMemo((): Outcome<RatePlan> => {
    const typed = parseRate(rateText);
    if (!typed.ok) return typed;
    if (scopeKind === 'shot' && !shot) return refused('There is no shot here.');
    const scope: RateScope =
      scopeKind === 'shot' && shot ? { kind: 'shot', shotId: shot.id, plannedAt: typed.value } : { kind: 'project', to: typed.value };
    return { ok: true, value: planRateChange(project, placedItems(project), { scope, way, vanishing }) };
  }, [project, shot, rateText, way, scopeKind, vanishing]);
  return { project, shot, rateText, rate, way, scopeKind, vanishing, think, plan };
}

export type RateChangeState = ReturnType<typeof useRateChange>;
