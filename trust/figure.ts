/** A promise held against what was seen: how often it was tried, how often it was broken, and what else was measured. */
export type Promised = {
  readonly figure: string;
  readonly tried: number;
  readonly broken: number;
  readonly [measured: string]: unknown;
};

/** Prints a promise as a line of JSON; a broken one makes the run fail. */
export function promised(figure: Promised): void {
  console.log(JSON.stringify(figure));
  if (figure.broken > 0) process.exitCode = 1;
}

/** The value that a part of the values (0 to 1) are not above. */
export function percentile(values: readonly number[], part: number): number {
  const sorted = [...values].sort((a, b) => a - b);
  return sorted[Math.min(sorted.length - 1, Math.floor(sorted.length * part))] ?? 0;
}

/** A whole number from the environment, so that a run can be made shorter. */
export const wholeFrom = (name: string, otherwise: number): number => Number(process.env[name] ?? otherwise);
