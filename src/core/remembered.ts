/*
 * Values of the document never change, so that what was worked out from one holds as long as the value lives. These
 * keep such answers and let go of them together with the value.
 */

/** A function of values whose answers are kept. */
export type Remembered<Value extends object, Answer> = ((value: Value) => Answer) & {
  /** The answer for a value if it was worked out already; undefined otherwise. */
  readonly known: (value: Value) => Answer | undefined;
  /** Keeps an answer that was worked out another way, for instance from that of a value close to this one. */
  readonly keep: (value: Value, answer: Answer) => void;
  readonly isKnown: (value: Value) => boolean;
  readonly forget: (value: Value) => void;
};

/** The function, working each value out once. */
export function remembered<Value extends object, Answer>(work: (value: Value) => Answer): Remembered<Value, Answer> {
  const answers = new WeakMap<Value, Answer>();
  const ask = (value: Value): Answer => {
    const known = answers.get(value);
    if (known !== undefined || answers.has(value)) return known as Answer;
    const answer = work(value);
    answers.set(value, answer);
    return answer;
  };
  return Object.assign(ask, {
    known: (value: Value) => answers.get(value),
    keep: (value: Value, answer: Answer) => void answers.set(value, answer),
    isKnown: (value: Value) => answers.has(value),
    forget: (value: Value) => void answers.delete(value),
  });
}

/** Answers that are kept for so many values at most: more than a sheet has columns. */
const LATELY = 256;

/**
 * The function, keeping its answers for the values that came last: for what is soon worked out again and is asked for all over a
 * film now and then, where all answers together would take more memory than the film.
 */
export function rememberedLately<Value extends object, Answer>(work: (value: Value) => Answer): (value: Value) => Answer {
  const answers = remembered(work);
  // A value that nobody has any more is not kept by this either.
  const order: (WeakRef<Value> | undefined)[] = new Array(LATELY).fill(undefined);
  let place = 0;
  return (value) => {
    if (!answers.isKnown(value)) {
      const oldest = order[place]?.deref();
      if (oldest) answers.forget(oldest);
      order[place] = new WeakRef(value);
      place = (place + 1) % LATELY;
    }
    return answers(value);
  };
}

/**
 * Keeps for each value its last answer, with what that was worked out under. The function returned answers from what it
 * kept when `under` is the same (by `Object.is`), and works it out otherwise.
 */
export function rememberedUnder<Value extends object, Under, Answer>(): (value: Value, under: Under, work: () => Answer) => Answer {
  const answers = new WeakMap<Value, { readonly under: Under; readonly answer: Answer }>();
  return (value, under, work) => {
    const known = answers.get(value);
    if (known && Object.is(known.under, under)) return known.answer;
    const answer = work();
    answers.set(value, { under, answer });
    return answer;
  };
}

/** An answer that is worked out when it is first asked for, if it ever is. */
export function once<Answer>(work: () => Answer): () => Answer {
  let known: { readonly answer: Answer } | null = null;
  return () => {
    known ??= { answer: work() };
    return known.answer;
  };
}
