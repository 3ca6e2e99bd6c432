'use client';
import { useMemo, useState } from 'react';
import { planRateChange, type RatePlan, type RateScope, type RateWay } from '@/core/conform/conform';
import type { Vanishing } from '@/core/conform/conformLevel';
import type { Outcome } from '@/core/outcome';
import { refused } from '@/core/outcome';
import { parseRate } from '@/core/time/rate';
import { useProject, useShot } from '@/features/project/hooks';
import { useCalm } from '@/features/project/useCalm';

export const WAYS: readonly { value: RateWay; label: string; title: string }[] = [
  { value: 'keepTime', label: 'keep time', title: 'Every drawing starts when it started, to the nearest frame' },
  { value: 'keepCounts', label: 'keep counts', title: 'Every exposure keeps its frames; the film gets longer or shorter' },
  { value: 'readAs', label: 'read as', title: 'Nothing changes but the clock' },
];

export type ScopeKind = 'project' | 'shot';

/** A rate change being thought about, worked out whenever something in it changes. */
export function useRateChange() {
  const project = useCalm(useProject());
  const shot = useCalm(useShot());
  const [rateText, setRateText] = useState(project.rate.num === 25 && project.rate.den === 1 ? '24' : '25');
  const [way, setWay] = useState<RateWay>('keepTime');
  const [scopeKind, setScopeKind] = useState<ScopeKind>('project');
  const [vanishing, setVanishing] = useState<Vanishing>('refuse');
  const rate = parseRate(rateText);
  const plan = useMemo((): Outcome<RatePlan> => {
    const typed = parseRate(rateText);
    if (!typed.ok) return typed;
    if (scopeKind === 'shot' && !shot) return refused('There is no shot here.');
    const scope: RateScope =
      scopeKind === 'shot' && shot ? { kind: 'shot', shotId: shot.id, plannedAt: typed.value } : { kind: 'project', to: typed.value };
    return { ok: true, value: planRateChange(project, { scope, way, vanishing }) };
  }, [project, shot, rateText, way, scopeKind, vanishing]);
  return { project, shot, rateText, setRateText, rate, way, setWay, scopeKind, setScopeKind, vanishing, setVanishing, plan };
}

export type RateChangeState = ReturnType<typeof useRateChange>;
