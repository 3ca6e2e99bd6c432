import { done, type Outcome, refused } from '@/core/outcome';

/** A character no database stores as text: a NUL, or half of a pair of surrogates. */
const UNSTORABLE = /\0|\p{Surrogate}/u;

/** Whether a text can be stored as it is. */
export const isStorableText = (text: string): boolean => !UNSTORABLE.test(text);

/** The text without what can't be stored. */
export const storableText = (text: string): string => text.replace(/\0|\p{Surrogate}/gu, '');

/** How deep steps may lie in each other. */
export const DEEPEST_STEPS = 32;
/** How deep a value may be nested at all: steps in each other, and what one step holds. */
const DEEPEST_VALUE = DEEPEST_STEPS * 2 + 12;

/**
 * Refuses a value that came from outside when it holds a text that can't be stored, or is nested deeper than
 * anything meant. Goes through it without recursion, so that no depth can break it.
 */
export function checkStorable(value: unknown): Outcome<null> {
  const waiting: { readonly value: unknown; readonly depth: number }[] = [{ value, depth: 0 }];
  for (let next = waiting.pop(); next; next = waiting.pop()) {
    const { value: each, depth } = next;
    if (typeof each === 'string' && !isStorableText(each))
      return refused('A text holds a character that can’t be stored: a NUL, or half of an emoji. Take it out, then try again.');
    if (typeof each !== 'object' || each === null) continue;
    if (depth >= DEEPEST_VALUE) return refused(`Steps lie in each other deeper than ${DEEPEST_STEPS}: that is more than is taken.`);
    const add = (part: unknown) => {
      // Numbers, of which there may be a million, hold nothing to look at.
      if (typeof part === 'string' || typeof part === 'object') waiting.push({ value: part, depth: depth + 1 });
    };
    if (Array.isArray(each)) {
      for (const part of each) add(part);
      continue;
    }
    for (const [key, part] of Object.entries(each)) {
      if (!isStorableText(key)) return refused('A name holds a character that can’t be stored: a NUL, or half of an emoji.');
      add(part);
    }
  }
  return done(null);
}
