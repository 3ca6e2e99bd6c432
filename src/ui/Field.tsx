'use client';
import { type InputHTMLAttributes, useEffect, useId, useState } from 'react';

type Props = Omit<InputHTMLAttributes<HTMLInputElement>, 'onChange'> & {
  label: string;
  said?: string;
  wrong?: string;
  onChange: (value: string) => void;
};

/** A labelled line of text, with what was understood or what is wrong beneath it. */
export function Field({ label, said, wrong, onChange, className = '', ...rest }: Props) {
  const id = useId();
  return (
    <div className={`flex min-w-0 flex-col gap-0.5 ${className}`}>
      <label htmlFor={id} className="text-soft text-xs">
        {label}
      </label>
      <input
        id={id}
        aria-invalid={wrong ? true : undefined}
        aria-describedby={said || wrong ? `${id}-said` : undefined}
        onChange={(event) => onChange(event.target.value)}
        className={`min-h-8 w-full rounded-lg border bg-paper px-2.5 py-1 ${wrong ? 'border-rust' : 'border-line hover:border-edge'}`}
        {...rest}
      />
      {(said || wrong) && (
        <p id={`${id}-said`} className={`text-xs ${wrong ? 'text-rust' : 'text-soft'}`}>
          {wrong ?? said}
        </p>
      )}
    </div>
  );
}

/** A field whose value is taken on Enter or on leaving it; Escape puts back what was there. */
export function CommitField({
  value,
  onCommit,
  onChange,
  ...rest
}: Omit<Props, 'onChange' | 'value'> & { value: string; onCommit: (value: string) => void; onChange?: (value: string) => void }) {
  const [text, setText] = useState(value);
  useEffect(() => setText(value), [value]);
  const change = (next: string) => {
    setText(next);
    onChange?.(next);
  };
  return (
    <Field
      {...rest}
      value={text}
      onChange={change}
      onBlur={() => text !== value && onCommit(text)}
      onKeyDown={(event) => {
        if (event.key === 'Enter') onCommit(text);
        if (event.key === 'Escape') change(value);
      }}
    />
  );
}
