'use client';
import type { Drawing, Level } from '@/core/document/model';
import { exposuresOf } from '@/core/sheet/reading';
import { commandCalled, hint } from '@/features/commands/everyCommand';

/** Said before a drawing is drawn on that shows in several places; offers one of its own for this place. */
export function SharedTag({ level, drawing }: { level: Level; drawing: Drawing | undefined }) {
  const places = drawing && level.kind !== 'still' ? exposuresOf(level, drawing.id).length : 0;
  if (places < 2) return null;
  return (
    <p
      role="status"
      onPointerDown={(event) => event.stopPropagation()}
      className="absolute top-1.5 left-1.5 flex cursor-default items-center gap-2 rounded-full border border-line bg-paper/90 py-0.5 pr-1 pl-2.5 text-2xs"
    >
      Shows in {places} places: what you draw changes all.
      <button
        type="button"
        onClick={commandCalled('own-copy').run}
        title={hint('Make independent here', 'own-copy')}
        className="cursor-pointer rounded-full bg-sunk px-2 py-px font-semibold hover:bg-lime-wash"
      >
        Make independent here
      </button>
    </p>
  );
}
