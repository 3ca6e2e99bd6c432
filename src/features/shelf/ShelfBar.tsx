'use client';
import { countText, plural } from '@/core/time/counts';
import { SHELF_ORDERS, type ShelfOrder } from '@/features/shelf/shelfOrder';
import { Choice } from '@/ui/Choice';

/** What of the shelf is shown, and how. */
export type ShelfView = { readonly wanted: string; readonly order: ShelfOrder; readonly isPutAway: boolean };

type Props = {
  readonly view: ShelfView;
  readonly onChange: (view: ShelfView) => void;
  readonly shown: number;
  readonly all: number;
  readonly putAway: number;
};

/** Finds and orders projects, and shows those that were put away. */
export function ShelfBar({ view, onChange, shown, all, putAway }: Props) {
  return (
    <div className="flex flex-wrap items-center gap-3 text-xs">
      <input
        type="search"
        aria-label="Find a project"
        placeholder="Find a project"
        value={view.wanted}
        onChange={(event) => onChange({ ...view, wanted: event.target.value })}
        className="min-h-8 w-56 rounded-lg border border-line bg-paper px-2.5 hover:border-edge"
      />
      <select
        aria-label="Order"
        value={view.order}
        onChange={(event) => {
          const chosen = SHELF_ORDERS.find(({ value }) => value === event.target.value);
          if (chosen) onChange({ ...view, order: chosen.value });
        }}
        className="min-h-8 rounded-lg border border-line bg-paper px-2 hover:border-edge"
      >
        {SHELF_ORDERS.map(({ value, label }) => (
          <option key={value} value={value}>
            {label}
          </option>
        ))}
      </select>
      {(putAway > 0 || view.isPutAway) && (
        <Choice
          label="Which projects"
          value={view.isPutAway ? 'away' : 'here'}
          options={[
            { value: 'here', label: 'On the shelf' },
            { value: 'away', label: `Put away (${countText(putAway)})` },
          ]}
          onChange={(value) => onChange({ ...view, isPutAway: value === 'away' })}
        />
      )}
      <span className="numbers text-soft" aria-live="polite">
        {shown === all ? plural(all, 'project') : `${countText(shown)} of ${plural(all, 'project')}`}
      </span>
    </div>
  );
}
