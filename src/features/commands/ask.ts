import { create } from 'zustand';
import type { Step } from '@/core/edit/step';
import type { Outcome } from '@/core/outcome';

/** Something an edit has to be told before it can be done. */
export type AskField = {
  readonly id: string;
  readonly label: string;
  readonly start: string;
  /** One of a few values, all in sight; else a line of text, or several lines. */
  readonly options?: readonly { readonly value: string; readonly label: string }[];
  readonly lines?: number;
  /** Beside another that is narrow, too. */
  readonly narrow?: boolean;
};

export type Answers = Readonly<Record<string, string>>;

/** What answers come to: what will be done in words, and the step that does it; none for what only goes somewhere. */
export type AskResult = { readonly says: string; readonly step?: Step };

/** One thing of several that an edit would do, which may be left out. */
export type AskPart = { readonly id: string; readonly words: string };

/**
 * A question before an edit. `read` says what the answers come to as the document stands, without changing it, for those of the
 * parts that are taken; `done` follows once it is made. `parts` are what can be taken one by one, if anything.
 */
export type Ask = {
  readonly title: string;
  readonly about: string;
  readonly confirm: string;
  readonly fields: readonly AskField[];
  readonly parts?: (answers: Answers) => Outcome<readonly AskPart[]>;
  readonly read: (answers: Answers, isTaken: (id: string) => boolean) => Outcome<AskResult>;
  readonly done?: (answers: Answers) => void;
};

/** The question that is open. */
export const useAskStore = create<{ readonly asked: Ask | null }>(() => ({ asked: null }));

export const ask = (asked: Ask): void => useAskStore.setState({ asked });
