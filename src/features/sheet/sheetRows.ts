/** How tall the sheet's row of one frame is. */
export const ROW_PX = 17;

/** Rows are made in stacks of so many, so that most steps of a frame make none. */
export const STACK_ROWS = 16;

/** How wide the ruler is that stands before the columns. */
export const RULER_PX = 44;

/** What is left free beside an exposure. */
export const COLUMN_GAP_PX = 4;
