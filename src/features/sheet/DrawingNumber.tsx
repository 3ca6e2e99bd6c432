import type { Drawing } from '@/core/document/model';

/** A drawing's number with the paper charts' marks: keys ringed, breakdowns underlined, in-betweens plain (common practice). The sheet paints the same marks. */
export function DrawingNumber({ drawing }: { drawing: Drawing }) {
  const mark = {
    key: `rounded-full border-[1.5px] border-current leading-[13px] ${drawing.number.length > 1 ? 'px-1' : 'px-1.5'}`,
    breakdown: 'underline decoration-[1.5px] underline-offset-2 px-0.5',
    inbetween: 'px-0.5',
  }[drawing.role];
  return <span className={`numbers inline-block font-semibold text-2xs leading-[15px] ${mark}`}>{drawing.number}</span>;
}
