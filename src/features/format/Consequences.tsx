import { Ban, Info } from 'lucide-react';
import type { Consequence } from '@/core/document/ruledOut';

/** What a choice brings with it, told while choosing. */
export function Consequences({ told }: { told: readonly Consequence[] }) {
  if (told.length === 0) return null;
  return (
    <ul className="space-y-0.5 text-xs">
      {told.map(({ rulesOut, words }) => (
        <li key={words} className={`flex gap-1.5 ${rulesOut ? 'text-rust' : 'text-soft'}`}>
          {rulesOut ? (
            <Ban size={13} className="mt-0.5 shrink-0" aria-label="Ruled out" />
          ) : (
            <Info size={13} className="mt-0.5 shrink-0" aria-label="Good to know" />
          )}
          {words}
        </li>
      ))}
    </ul>
  );
}
