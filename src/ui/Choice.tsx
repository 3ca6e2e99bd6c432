import { ToggleGroup } from 'radix-ui';
import { memo, useCallback, useLayoutEffect, useRef } from 'react';

type Option<V extends string> = { readonly value: V; readonly label: string; readonly disabled?: boolean; readonly title?: string };

type GroupProps = {
  readonly label: string;
  readonly value: string;
  readonly options: readonly Option<string>[];
  readonly onValueChange: (value: string) => void;
};

const sameOption = (one: Option<string>, other: Option<string> | undefined): boolean =>
  one === other ||
  (one.value === other?.value && one.label === other.label && one.disabled === other.disabled && one.title === other.title);

const sameGroup = (before: GroupProps, after: GroupProps): boolean =>
  before.label === after.label &&
  before.value === after.value &&
  before.onValueChange === after.onValueChange &&
  before.options.length === after.options.length &&
  before.options.every((option, at) => sameOption(option, after.options[at]));

/** The values in sight. A dozen parts make each of them up, so they are not made anew with whatever they stand on. */
const Group = memo(function Group({ label, value, options, onValueChange }: GroupProps) {
  return (
    <ToggleGroup.Root type="single" aria-label={label} value={value} onValueChange={onValueChange} className="flex flex-wrap gap-1">
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
}, sameGroup);

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
  const change = useRef(onChange);
  useLayoutEffect(() => {
    change.current = onChange;
  });
  const onValueChange = useCallback((next: string) => {
    if (next !== '') change.current(next as V);
  }, []);
  return <Group label={label} value={value} options={options} onValueChange={onValueChange} />;
}
