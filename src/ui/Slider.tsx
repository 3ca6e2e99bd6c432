import { Slider as RadixSlider } from 'radix-ui';

type Props = {
  label: string;
  value: number;
  min: number;
  max: number;
  step?: number;
  onChange: (value: number) => void;
  onCommit?: (value: number) => void;
  tone?: 'ink' | 'ochre' | 'violet';
};

const TONES = { ink: 'bg-soft', ochre: 'bg-ochre-mark', violet: 'bg-violet-mark' };

/** A value drawn along a line; arrow keys move it by `step`. */
export function Slider({ label, value, min, max, step = 1, onChange, onCommit, tone = 'ink' }: Props) {
  return (
    <RadixSlider.Root
      className="relative flex h-5 w-full min-w-10 touch-none select-none items-center"
      value={[value]}
      min={min}
      max={max}
      step={step}
      onValueChange={([next]) => next !== undefined && onChange(next)}
      onValueCommit={([next]) => next !== undefined && onCommit?.(next)}
    >
      <RadixSlider.Track className="relative h-1 grow rounded-full bg-line">
        <RadixSlider.Range className={`absolute h-full rounded-full ${TONES[tone]}`} />
      </RadixSlider.Track>
      <RadixSlider.Thumb aria-label={label} className="block size-3.5 rounded-full border border-edge bg-paper" />
    </RadixSlider.Root>
  );
}
