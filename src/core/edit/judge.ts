/*
 * What is to be done with a sending of steps that were made on a revision of a project. A server and the
 * tests' own server alike ask here, so that both mean the same.
 */

/** What a server knows when a sending arrives: the project's revision, and the one this sending made if it was accepted before. */
export type ServerState = { readonly revision: number; readonly acceptedBefore: number | null };

export type Judgement =
  /** It was accepted before and is answered again as it was. */
  | { readonly kind: 'accepted-before'; readonly revision: number }
  /** Others came between: the sender makes it again on top of them. */
  | { readonly kind: 'stale' }
  /** The sender knows more than this server: it is another store, or an older copy. Nothing is taken. */
  | { readonly kind: 'ahead' }
  | { readonly kind: 'make' };

/** Judges a sending made on `baseRevision`. */
export function judgeSending({ revision, acceptedBefore }: ServerState, baseRevision: number): Judgement {
  if (acceptedBefore !== null) return { kind: 'accepted-before', revision: acceptedBefore };
  if (baseRevision > revision) return { kind: 'ahead' };
  return baseRevision < revision ? { kind: 'stale' } : { kind: 'make' };
}
