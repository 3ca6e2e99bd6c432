'use client';
import { useEffect, useState } from 'react';

type Props = {
  label: string;
  value: string;
  onCommit: (value: string) => void;
  onType?: (value: string) => void;
  onLeave?: () => void;
  maxLength?: number;
  className?: string;
};

/** A value in a table that is written over in its place: taken on Enter or on leaving it, put back by Escape. */
export function CommitCell({ label, value, onCommit, onType, onLeave, maxLength, className = '' }: Props) {
  const [text, setText] = useState(value);
  useEffect(() => setText(value), [value]);
  return (
    <input
      aria-label={label}
      title={label}
      value={text}
      maxLength={maxLength}
      onChange={(event) => {
        setText(event.target.value);
        onType?.(event.target.value);
      }}
      onBlur={() => {
        onLeave?.();
        if (text === value) return;
        onCommit(text);
        setText(value);
      }}
      onKeyDown={(event) => {
        if (event.key === 'Enter') event.currentTarget.blur();
        if (event.key === 'Escape') {
          setText(value);
          onType?.(value);
        }
      }}
      className={`min-h-6 truncate rounded border border-transparent bg-transparent px-1 hover:border-line focus:border-edge focus:bg-paper ${className}`}
    />
  );
}
