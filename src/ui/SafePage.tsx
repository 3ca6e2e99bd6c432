import type { ReactNode } from 'react';
import { Mark } from '@/ui/Mark';

/** A page for when there is nothing else to show: what happened, what is safe, what to do. */
export function SafePage({ title, children }: { title: string; children: ReactNode }) {
  return (
    <main className="flex h-full min-h-screen flex-col items-center justify-center gap-4 p-8 text-center">
      <Mark size={48} />
      <h1 className="font-bold font-head text-xl">{title}</h1>
      {children}
    </main>
  );
}
