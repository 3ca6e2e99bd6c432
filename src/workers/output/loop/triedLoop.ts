import { digestOfBytes } from '@/core/raster/digest';
import { planText } from '@/core/render/renderPlan';
import type { HandoverOrder } from '@/workers/protocol';

/** All that a loop is made of, as a digest; how large it may be is no part of that. */
export function madeOf({ plan, formatId, baseName, ground, options }: HandoverOrder): Promise<string> {
  const asked = options.kind === 'loop' ? { ...options, mostBytes: null } : options;
  return digestOfBytes([formatId, baseName, ground, JSON.stringify(asked), planText(plan)].join('\n'));
}
