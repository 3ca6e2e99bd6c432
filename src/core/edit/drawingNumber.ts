import { done, type Outcome, refused } from '@/core/outcome';

/** Refuses what can't be a drawing's number. */
export function checkNumber(number: string): Outcome<string> {
  if (!/^[\p{L}\p{N}]{1,12}$/u.test(number))
    return refused(`“${number}” can't be a drawing's number: use 1 to 12 letters and digits, as 7 or 7a.`);
  return done(number);
}
