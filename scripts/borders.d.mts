/** See `borders.mjs`. */
export const BORDERS: readonly (readonly [room: string, mayImport: readonly string[], packages: readonly string[]])[];
export function withBorders(settings: Record<string, unknown> & { overrides?: unknown[] }): Record<string, unknown>;
