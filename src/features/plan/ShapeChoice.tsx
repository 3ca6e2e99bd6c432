'use client';
import { RadioGroup } from 'radix-ui';
import { memo } from 'react';
import { MADE_SHAPES, type MadeShape, shapeWords } from '@/core/chart/shapes';
import type { ChartShape } from '@/core/document/timingChart';

/** One shape; not made anew with the chart it is a choice for. */
const ShapeItem = memo(function ShapeItem({ value, words }: { value: MadeShape; words: string }) {
  return (
    <RadioGroup.Item
      value={value}
      className="min-h-6 rounded-md border border-line bg-sunk px-1.5 text-xs hover:border-edge data-[state=checked]:border-ink data-[state=checked]:bg-ink data-[state=checked]:text-paper"
    >
      {words}
    </RadioGroup.Item>
  );
});

/** Every shape of a timing chart, in words; arrow keys go through them. One made by hand is none of them. `onChange` must stay the same. */
export const ShapeChoice = memo(function ShapeChoice({
  shape,
  first,
  second,
  onChange,
}: {
  shape: ChartShape;
  first: string;
  second: string;
  onChange: (shape: MadeShape) => void;
}) {
  return (
    <RadioGroup.Root
      aria-label="Where the in-betweens lie"
      value={shape}
      onValueChange={(value) => onChange(MADE_SHAPES.find((candidate) => candidate === value) ?? 'even')}
      className="flex flex-wrap gap-1"
    >
      {MADE_SHAPES.map((each) => (
        <ShapeItem key={each} value={each} words={shapeWords(each, first, second)} />
      ))}
      {shape === 'hand' && <span className="px-1.5 text-soft text-xs leading-6">now by hand</span>}
    </RadioGroup.Root>
  );
});
