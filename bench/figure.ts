/** One measured figure. `against` is what it was held against in the same run, `ratio` the one over the other. */
export type Figure = {
  readonly name: string;
  readonly value: number;
  readonly unit: string;
  readonly against?: number;
  readonly ratio?: number;
};

const rounded = (value: number) => Number(value.toPrecision(4));

/** Prints a figure as one JSON line. */
export function print({ name, value, unit, against, ratio }: Figure): void {
  const line = {
    name,
    value: rounded(value),
    unit,
    ...(against === undefined ? {} : { against: rounded(against) }),
    ...(ratio === undefined ? {} : { ratio: rounded(ratio) }),
  };
  console.log(JSON.stringify(line));
}

/** The value below which `part` (0 to 1) of the values lie. */
export function quantile(values: readonly number[], part: number): number {
  const sorted = [...values].sort((a, b) => a - b);
  return sorted[Math.min(sorted.length - 1, Math.floor(sorted.length * part))] ?? Number.NaN;
}
