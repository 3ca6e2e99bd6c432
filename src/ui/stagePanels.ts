import type { PanelImperativeHandle } from 'react-resizable-panels';

export type Side = 'left' | 'right';

/** The panels of the stage that is open, by their side; null where it has none, or stands them under each other. */
export const stagePanels: Record<Side, PanelImperativeHandle | null> = { left: null, right: null };

/** Folds a panel of the open stage, or shows it again. */
export function foldPanel(side: Side): void {
  const panel = stagePanels[side];
  if (panel?.isCollapsed()) panel.expand();
  else panel?.collapse();
}
