import fc from 'fast-check';

/**
 * Records as documents hold them: plain objects, as JSON and the border's schemas make them. fast-check's own now and
 * then have no prototype, which no document has and which deep comparison can't read.
 */
export const record = <T>(fields: { [K in keyof T]: fc.Arbitrary<T[K]> }): fc.Arbitrary<T> => fc.record(fields, { noNullPrototype: true });

/** The same, any of whose fields may be missing but those said to be there. */
export const partialRecord = <T, K extends keyof T = never>(fields: { [F in keyof T]: fc.Arbitrary<T[F]> }, requiredKeys: K[] = []) =>
  fc.record<T, K>(fields, { noNullPrototype: true, requiredKeys });
