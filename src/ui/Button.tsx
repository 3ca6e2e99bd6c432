import type { ButtonHTMLAttributes } from 'react';

type Kind = 'plain' | 'go' | 'dark' | 'quiet' | 'warn';

const KINDS: Record<Kind, string> = {
  plain: 'border border-line bg-sunk hover:border-edge',
  go: 'border border-[#9dbd1c] bg-lime text-onlime hover:bg-[#bfe032]',
  dark: 'border border-ink bg-ink text-paper hover:opacity-90',
  quiet: 'border border-transparent hover:bg-sunk',
  warn: 'border border-rust bg-paper text-rust hover:bg-rust-wash',
};

/** A button with words. `go` is for the one command that moves the job on, `warn` for commands that take something away; `tight` where many stand in a row. */
export function Button({
  kind = 'plain',
  tight = false,
  className = '',
  ...rest
}: ButtonHTMLAttributes<HTMLButtonElement> & { kind?: Kind; tight?: boolean }) {
  return (
    <button
      type="button"
      className={`inline-flex min-h-7 items-center justify-center gap-1.5 rounded-lg py-1 font-semibold text-xs transition-colors duration-100 disabled:cursor-not-allowed disabled:opacity-45 ${tight ? 'px-2' : 'px-3'} ${KINDS[kind]} ${className}`}
      {...rest}
    />
  );
}
