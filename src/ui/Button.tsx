import type { ButtonHTMLAttributes } from 'react';

type Kind = 'plain' | 'go' | 'dark' | 'quiet' | 'warn';

const KINDS: Record<Kind, string> = {
  plain: 'border border-line bg-sunk hover:border-edge',
  go: 'border border-[#9dbd1c] bg-lime hover:bg-[#bfe032]',
  dark: 'border border-ink bg-ink text-paper hover:bg-[#2d3b33]',
  quiet: 'border border-transparent hover:bg-sunk',
  warn: 'border border-rust bg-paper text-rust hover:bg-rust-wash',
};

/** A button with words. `go` is for the one act that moves the job on, `warn` for acts that take something away. */
export function Button({ kind = 'plain', className = '', ...rest }: ButtonHTMLAttributes<HTMLButtonElement> & { kind?: Kind }) {
  return (
    <button
      type="button"
      className={`inline-flex min-h-7 items-center justify-center gap-1.5 rounded-lg px-3 py-1 font-semibold text-xs transition-colors duration-100 disabled:cursor-not-allowed disabled:opacity-45 ${KINDS[kind]} ${className}`}
      {...rest}
    />
  );
}
