'use client';
import type { Size } from '@/core/document/model';
import { consequencesOfSize } from '@/core/document/ruledOut';
import { checkSize } from '@/core/document/size';
import type { Outcome } from '@/core/outcome';
import { Consequences } from '@/features/format/Consequences';
import { Choice } from '@/ui/Choice';
import { Field } from '@/ui/Field';

/** Sizes by what they are for. */
const SIZES = [
  { value: '1280x720', label: 'Wide, light 1280 × 720' },
  { value: '1920x1080', label: 'Wide, film and web 1920 × 1080' },
  { value: '3840x2160', label: 'Wide, large screens 3840 × 2160' },
  { value: '1080x1080', label: 'Square 1080 × 1080' },
  { value: '1080x1920', label: 'Upright, phones 1080 × 1920' },
] as const;

/** A size being chosen: one of the usual ones, or its own sides as typed. */
export type ChosenSize = { readonly choice: string; readonly width: string; readonly height: string };

export function chosenFrom(size: Size): ChosenSize {
  const value = `${size.width}x${size.height}`;
  return { choice: SIZES.some((each) => each.value === value) ? value : 'own', width: String(size.width), height: String(size.height) };
}

/** The size that is chosen, or what is wrong with it. */
export function sizeChosen({ choice, width, height }: ChosenSize): Outcome<Size> {
  const [across, down] = choice === 'own' ? [Number(width || Number.NaN), Number(height || Number.NaN)] : choice.split('x').map(Number);
  return checkSize(across ?? Number.NaN, down ?? Number.NaN);
}

/** Choosing a picture size, with what it rules out. */
export function SizeFields({ chosen, onChange }: { chosen: ChosenSize; onChange: (chosen: ChosenSize) => void }) {
  const size = sizeChosen(chosen);
  const choose = (choice: string) => {
    const [width = chosen.width, height = chosen.height] = choice === 'own' ? [] : choice.split('x');
    onChange({ choice, width, height });
  };
  return (
    <div className="space-y-1.5">
      <p className="text-soft text-xs">Picture size, by what it is for</p>
      <Choice label="Picture size" value={chosen.choice} options={[...SIZES, { value: 'own', label: 'Own size' }]} onChange={choose} />
      {chosen.choice === 'own' && (
        <div className="grid grid-cols-2 gap-2">
          <Field label="Width in px" inputMode="numeric" value={chosen.width} onChange={(width) => onChange({ ...chosen, width })} />
          <Field label="Height in px" inputMode="numeric" value={chosen.height} onChange={(height) => onChange({ ...chosen, height })} />
        </div>
      )}
      {size.ok ? <Consequences told={consequencesOfSize(size.value)} /> : <p className="text-rust text-xs">{size.reason}</p>}
    </div>
  );
}
