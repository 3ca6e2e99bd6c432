/** A stored value as it was read, of whatever form. */
export type StoredValue = Readonly<Record<string, unknown>>;
