/** Papers a sheet is printed on, upright, in points of 1/72 inch (ISO 216 and ANSI Y14.1). */
export const PAPERS = { a4: { width: 595.28, height: 841.89, name: 'A4' }, letter: { width: 612, height: 792, name: 'Letter' } } as const;
export type PaperSize = keyof typeof PAPERS;

/** Frames a page holds, in two halves side by side. */
export const FRAMES_A_PAGE = [96, 100] as const;
export type FramesAPage = (typeof FRAMES_A_PAGE)[number];

const MARGIN = 30;
const HEADER = 66;
const BETWEEN = 16;
const COLUMN_HEADS = 20;
const RULER = 24;
const NOTES = 60;
/** A lane of sounds, narrower where there are several. */
const SOUND_LANE = 14;
const [NARROWEST_SOUNDS, WIDEST_SOUNDS] = [22, 36];
const NARROWEST_COLUMN = 28;
const WIDEST_COLUMN = 46;

/** One printed page: frames from `fromFrame` (inclusive) to `toFrame` (exclusive), and levels likewise. */
export type SheetPage = { readonly fromFrame: number; readonly toFrame: number; readonly fromLevel: number; readonly toLevel: number };

/** Where things stand on the pages of one sheet, in points from the lower left. */
export type PageLayout = {
  readonly paper: (typeof PAPERS)[PaperSize];
  readonly margin: number;
  readonly headerTop: number;
  readonly halfWidth: number;
  readonly halfFrames: number;
  /** The left edge of a half, 0 or 1. */
  readonly halfLeft: (half: 0 | 1) => number;
  readonly headsTop: number;
  readonly rowsTop: number;
  readonly rowHeight: number;
  readonly rulerWidth: number;
  /** The column of sounds, right of the ruler; 0 where nothing is heard. */
  readonly soundsWidth: number;
  readonly columnWidth: number;
  readonly levelsAPage: number;
  readonly pages: readonly SheetPage[];
};

/**
 * Lays a sheet of so many frames and levels, with so many lanes of sounds side by side, out on pages; levels that have no room
 * go on pages of their own.
 */
export function layOutPages(paper: PaperSize, framesAPage: FramesAPage, frames: number, levels: number, soundLanes = 0): PageLayout {
  const page = PAPERS[paper];
  const halfWidth = (page.width - 2 * MARGIN - BETWEEN) / 2;
  const soundsWidth = soundLanes === 0 ? 0 : Math.min(WIDEST_SOUNDS, Math.max(NARROWEST_SOUNDS, soundLanes * SOUND_LANE));
  const room = halfWidth - RULER - soundsWidth - NOTES;
  const levelsAPage = Math.max(1, Math.min(levels, Math.floor(room / NARROWEST_COLUMN)));
  const headsTop = page.height - MARGIN - HEADER;
  const rowsTop = headsTop - COLUMN_HEADS;
  const pages: SheetPage[] = [];
  for (let fromFrame = 0; fromFrame < frames; fromFrame += framesAPage)
    for (let fromLevel = 0; fromLevel < Math.max(1, levels); fromLevel += levelsAPage)
      pages.push({
        fromFrame,
        toFrame: Math.min(frames, fromFrame + framesAPage),
        fromLevel,
        toLevel: Math.min(levels, fromLevel + levelsAPage),
      });
  return {
    paper: page,
    margin: MARGIN,
    headerTop: page.height - MARGIN,
    halfWidth,
    halfFrames: framesAPage / 2,
    halfLeft: (half) => MARGIN + half * (halfWidth + BETWEEN),
    headsTop,
    rowsTop,
    rowHeight: (rowsTop - MARGIN) / (framesAPage / 2),
    rulerWidth: RULER,
    soundsWidth,
    columnWidth: Math.min(WIDEST_COLUMN, room / levelsAPage),
    levelsAPage,
    pages,
  };
}
