/** Something in a list that is taken or left; `canTake` false where it is told only. */
export type ChecklistItem = { readonly id: string; readonly words: string; readonly canTake?: boolean };

type Props = {
  readonly label: string;
  readonly items: readonly ChecklistItem[];
  /** What is left as it is. */
  readonly left: ReadonlySet<string>;
  readonly onLeft: (left: ReadonlySet<string>) => void;
};

/** A list of which each may be taken or left, all at once by what stands above it. */
export function Checklist({ label, items, left, onLeft }: Props) {
  const takeable = items.filter(({ canTake }) => canTake !== false);
  const taken = takeable.filter(({ id }) => !left.has(id)).length;
  const row = 'flex items-start gap-2 rounded-lg px-1.5 py-1 hover:bg-sunk';
  return (
    <fieldset aria-label={label} className="text-xs">
      {takeable.length > 1 && (
        <label className={`${row} font-semibold`}>
          <input
            type="checkbox"
            className="mt-0.5 accent-ink"
            checked={taken === takeable.length}
            ref={(box) => {
              if (box) box.indeterminate = taken > 0 && taken < takeable.length;
            }}
            onChange={(event) => onLeft(new Set(event.target.checked ? [] : takeable.map(({ id }) => id)))}
          />
          {`All of them (${taken} of ${takeable.length})`}
        </label>
      )}
      <ul className="max-h-64 space-y-0.5 overflow-y-auto">
        {items.map(({ id, words, canTake }) => (
          <li key={id}>
            {canTake === false ? (
              <p className="px-1.5 py-1 pl-7 text-soft">{words}</p>
            ) : (
              <label className={row}>
                <input
                  type="checkbox"
                  className="mt-0.5 accent-ink"
                  checked={!left.has(id)}
                  onChange={(event) => onLeft(new Set(event.target.checked ? [...left].filter((each) => each !== id) : [...left, id]))}
                />
                {words}
              </label>
            )}
          </li>
        ))}
      </ul>
    </fieldset>
  );
}
