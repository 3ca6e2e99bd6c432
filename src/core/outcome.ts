/**
 * A result that may have failed in a way a person can do something about.
 * Expected failure is this value; misuse by the program throws.
 */
export type Outcome<T> = { readonly ok: true; readonly value: T } | Refusal;

/** Why something was not done: one sentence naming the value and what would be right. */
export type Refusal = { readonly ok: false; readonly reason: string };

/** The outcome of something that went as asked. */
export const done = <T>(value: T): Outcome<T> => ({ ok: true, value });

/** The outcome of something refused; `reason` is a whole sentence for a person. */
export const refused = (reason: string): Refusal => ({ ok: false, reason });

/** The value, or a throw: only where the caller has already made sure it cannot fail. */
export function mustBeDone<T>(outcome: Outcome<T>): T {
  if (!outcome.ok) throw new Error(outcome.reason);
  return outcome.value;
}
