'use client';
import { memo } from 'react';
import { type Drawing, drawingById, type Level } from '@/core/document/model';
import { roleWord, timingWord } from '@/core/sheet/reading';
import type { PlacedRun } from '@/core/sheet/runs';
import { ROW_PX } from '@/features/sheet/sheetRows';

type Props = {
  readonly id: string;
  readonly level: Level;
  readonly run: PlacedRun;
  readonly column: number;
  readonly firstNumber: number;
  readonly framesPerSecond: number;
  readonly leftPx: number;
  readonly widthPx: number;
  readonly selected: boolean;
};

function spoken({ level, run, firstNumber, framesPerSecond }: Props, drawing: Drawing | undefined): string {
  const frames = run.endFrame - run.startFrame;
  const first = run.startFrame + firstNumber;
  const where = frames === 1 ? `frame ${first}` : `frames ${first} to ${first + frames - 1}`;
  if (!drawing) return `${level.name}, blank, ${where}`;
  return `${level.name}, drawing ${drawing.number}, ${roleWord[drawing.role]}, ${where}, ${timingWord(frames, framesPerSecond)}${drawing.picture ? '' : ', not drawn yet'}`;
}

/** One exposure on the sheet for those who hear it and for the keyboard; how it looks is painted below (paintSheet). */
export const SheetCell = memo(function SheetCell(props: Props) {
  const { id, level, run, column, leftPx, widthPx, selected } = props;
  const drawing = drawingById(level, run.drawing);
  const frames = run.endFrame - run.startFrame;
  return (
    <div
      id={id}
      role="gridcell"
      aria-colindex={column + 3}
      aria-rowspan={frames}
      aria-selected={selected}
      aria-label={spoken(props, drawing)}
      data-drawing={drawing?.number}
      className="absolute"
      style={{ top: run.startFrame * ROW_PX + 1, height: frames * ROW_PX - 2, left: leftPx, width: widthPx }}
    />
  );
});
