'use client';
import { CommitField } from '@/ui/Field';

type Props = {
  readonly label: string;
  readonly value: number;
  readonly least: number;
  readonly most: number;
  readonly onChange: (value: number) => void;
};

/** A whole number in a range; what is outside it isn't taken. */
export function NumberField({ label, value, least, most, onChange }: Props) {
  return (
    <CommitField
      label={label}
      inputMode="numeric"
      value={String(value)}
      onCommit={(text) => {
        const number = Number(text);
        if (text.trim() !== '' && Number.isInteger(number) && number >= least && number <= most) onChange(number);
      }}
    />
  );
}
