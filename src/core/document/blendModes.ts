/**
 * How a level's colours meet those below: the separable blend modes of the W3C Compositing and Blending
 * Level 1 specification, clause 5.1.
 */
export const BLEND_MODES = [
  'normal',
  'multiply',
  'screen',
  'overlay',
  'darken',
  'lighten',
  'color-dodge',
  'color-burn',
  'hard-light',
  'soft-light',
  'difference',
  'exclusion',
] as const;
export type BlendMode = (typeof BLEND_MODES)[number];
