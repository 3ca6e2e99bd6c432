import { ToggleGroup } from 'radix-ui';

type Option<V extends string> = { readonly value: V; readonly label: string; readonly disabled?: boolean; readonly title?: string };

/** One of a few values, all in sight. */
export function Choice<V extends string>({
  label,
  value,
  options,
  onChange,
}: {
  label: string;
  value: V;
  options: readonly Option<V>[];
  onChange: (value: V) => void;
}) {
  return (
    <ToggleGroup.Root
      type="single"
      aria-label={label}
      value={value}
      onValueChange={(next) => next !== '' && onChange(next as V)}
      className="flex flex-wrap gap-1"
    >
      {options.map((option) => (
        <ToggleGroup.Item
          key={option.value}
          value={option.value}
          disabled={option.disabled}
          title={option.title}
          className="min-h-7 rounded-lg border border-line bg-sunk px-2.5 py-1 font-semibold text-xs hover:border-edge disabled:opacity-45 data-[state=on]:border-ink data-[state=on]:bg-ink data-[state=on]:text-paper"
        >
          {option.label}
        </ToggleGroup.Item>
      ))}
    </ToggleGroup.Root>
  );
}
