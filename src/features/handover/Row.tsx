import type { ReactNode } from 'react';

/** A choice with its name before it. */
export function Row({ name, children }: { name: string; children: ReactNode }) {
  return (
    <div className="grid grid-cols-[72px_minmax(0,1fr)] items-start gap-2">
      <span className="pt-1.5 text-soft text-xs">{name}</span>
      {children}
    </div>
  );
}
