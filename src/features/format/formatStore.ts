import { create } from 'zustand';
import type { RateWay } from '@/core/conform/conform';
import type { VanishingRule } from '@/core/conform/conformLevel';

export type ScopeKind = 'project' | 'shot';

/** A rate change being thought about; the panel and the window think of one. `rateText` is null until somebody chose one. */
export type RateThought = {
  readonly rateText: string | null;
  readonly way: RateWay;
  readonly scopeKind: ScopeKind;
  readonly vanishing: VanishingRule;
};

type FormatState = { readonly open: 'rate' | 'format' | null; readonly rate: RateThought };

/** Which window about the film's format is open, and what is thought about in it. */
export const useFormatStore = create<FormatState>(() => ({
  open: null,
  rate: { rateText: null, way: 'keepTime', scopeKind: 'project', vanishing: 'refuse' },
}));
