import type { BlendMode } from '@/core/document/blendModes';

/** B(Cb, Cs) of the separable blend modes, channels from 0 to 1: W3C Compositing and Blending Level 1, clause 10.1. */
export const BLENDING: Readonly<Record<BlendMode, (backdrop: number, source: number) => number>> = {
  normal: (_backdrop, source) => source,
  multiply: (backdrop, source) => backdrop * source,
  screen: (backdrop, source) => backdrop + source - backdrop * source,
  overlay: (backdrop, source) => hardLight(source, backdrop),
  darken: Math.min,
  lighten: Math.max,
  'color-dodge': (backdrop, source) => (backdrop === 0 ? 0 : source === 1 ? 1 : Math.min(1, backdrop / (1 - source))),
  'color-burn': (backdrop, source) => (backdrop === 1 ? 1 : source === 0 ? 0 : 1 - Math.min(1, (1 - backdrop) / source)),
  'hard-light': hardLight,
  'soft-light': (backdrop, source) => {
    if (source <= 0.5) return backdrop - (1 - 2 * source) * backdrop * (1 - backdrop);
    const d = backdrop <= 0.25 ? ((16 * backdrop - 12) * backdrop + 4) * backdrop : Math.sqrt(backdrop);
    return backdrop + (2 * source - 1) * (d - backdrop);
  },
  difference: (backdrop, source) => Math.abs(backdrop - source),
  exclusion: (backdrop, source) => backdrop + source - 2 * backdrop * source,
};

function hardLight(backdrop: number, source: number): number {
  return source <= 0.5 ? backdrop * 2 * source : backdrop + (2 * source - 1) - backdrop * (2 * source - 1);
}
