'use client';
import { memo } from 'react';
import { type Drawing, drawingById, type Level } from '@/core/document/model';
import { roleWord, timingWord } from '@/core/sheet/reading';
import type { PlacedRun } from '@/core/sheet/runs';

export const ROW_PX = 17;

type Props = {
  readonly id: string;
  readonly level: Level;
  readonly run: PlacedRun;
  readonly column: number;
  /** First frame of it in sight: its number stands there. */
  readonly shownFrom: number;
  readonly firstNumber: number;
  readonly framesPerSecond: number;
  readonly left: string;
  readonly width: string;
  readonly selected: boolean;
  readonly shotFrames: number;
  /** Where the drawing lies on its timing chart, when that is shown. */
  readonly place: string | undefined;
};

function spoken({ level, run, firstNumber, framesPerSecond }: Props, drawing: Drawing | undefined): string {
  const frames = run.endFrame - run.startFrame;
  const first = run.startFrame + firstNumber;
  const where = frames === 1 ? `frame ${first}` : `frames ${first} to ${first + frames - 1}`;
  if (!drawing) return `${level.name}, blank, ${where}`;
  return `${level.name}, drawing ${drawing.number}, ${roleWord[drawing.role]}, ${where}, ${timingWord(frames, framesPerSecond)}${drawing.picture ? '' : ', not drawn yet'}`;
}

/** A drawing's number with the paper charts' marks: keys ringed, breakdowns underlined, in-betweens plain (common practice); `tight` where there is a row of one frame and no more. */
export function DrawingNumber({ drawing, tight = false }: { drawing: Drawing; tight?: boolean }) {
  const mark = {
    key: `rounded-full border-[1.5px] border-current ${drawing.number.length > 1 ? 'px-1' : 'px-1.5'} ${tight ? 'leading-[10px]!' : 'leading-[13px]'}`,
    breakdown: 'underline decoration-[1.5px] underline-offset-2 px-0.5',
    inbetween: 'px-0.5',
  }[drawing.role];
  return <span className={`numbers inline-block font-semibold text-2xs leading-[15px] ${mark}`}>{drawing.number}</span>;
}

/** One exposure on the sheet: as tall as it is long, a leaning tick for each frame, the number at its head. */
export const ExposureCell = memo(function ExposureCell(props: Props) {
  const { id, level, run, column, shownFrom, framesPerSecond, left, width, selected, shotFrames, place } = props;
  const drawing = drawingById(level, run.drawing);
  const frames = run.endFrame - run.startFrame;
  const hold = frames > framesPerSecond / 3;
  const look = !drawing
    ? 'border-transparent'
    : drawing.picture === null
      ? 'border-dashed border-edge bg-transparent text-soft'
      : `border-line ${hold ? 'border-r-[3px] border-r-edge/60 bg-hold' : 'bg-sunk'}`;
  return (
    <div
      id={id}
      role="gridcell"
      aria-colindex={column + 3}
      aria-rowspan={frames}
      aria-selected={selected}
      aria-label={spoken(props, drawing)}
      data-drawing={drawing?.number}
      className={`absolute box-border overflow-hidden rounded-[6px] border ${drawing ? 'ticks' : ''} ${look} ${selected ? 'border-moss! border-solid! bg-lime-wash!' : ''} ${run.startFrame >= shotFrames ? 'opacity-50' : ''}`}
      style={{ top: run.startFrame * ROW_PX + 1, height: frames * ROW_PX - 2, left, width }}
    >
      {drawing && (
        <span
          className={`absolute left-[13px] flex ${frames === 1 ? 'h-[15px] items-center' : ''}`}
          style={{ top: (shownFrom - run.startFrame) * ROW_PX - (frames === 1 ? 1 : 0.5) }}
        >
          <DrawingNumber drawing={drawing} tight={frames === 1} />
          {place && <span className="numbers pl-0.5 text-2xs text-soft leading-[15px]">{place}</span>}
        </span>
      )}
    </div>
  );
});
