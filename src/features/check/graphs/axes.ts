/** How graphs look: one size of letters, one line. */
export const TICK = { fontSize: 11, fill: 'var(--color-soft)' };

export const TOOLTIP = {
  background: 'var(--color-paper)',
  border: '1px solid var(--color-line)',
  borderRadius: 8,
  fontSize: 12,
  padding: '4px 8px',
};

export const MARGIN = { top: 8, right: 12, bottom: 0, left: -14 };

/** What a press on a graph tells: which of its points is meant. */
export type GraphPress = { readonly activeTooltipIndex?: number | string | null | undefined };

/** The point that was pressed; undefined when it was none. */
export function pressedOf<T>(points: readonly T[], { activeTooltipIndex }: GraphPress): T | undefined {
  return activeTooltipIndex === undefined || activeTooltipIndex === null ? undefined : points[Number(activeTooltipIndex)];
}
