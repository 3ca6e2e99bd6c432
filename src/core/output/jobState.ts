/*
 * What becomes of a handover. It is planned, written, opened again and counted, and then done; it can be stopped or fail on
 * the way. Whatever does not belong to the state it is in changes nothing: news of a job that was stopped may play late.
 */

/** What comes before writing: another program, which writes them, is sent the pictures, or their colours are looked at for a palette for all. */
export type PhaseBefore = 'sending' | 'looking';

/** Frames done of all, in what is being done now, none of none while it starts; `composited` pictures were made so far. `before` is what all pictures went through before any is written. */
export type JobProgress = {
  readonly framesDone: number;
  readonly frames: number;
  readonly composited: number;
  readonly before?: PhaseBefore;
};

export type JobState =
  | { readonly kind: 'planned' }
  | { readonly kind: PhaseBefore; readonly progress: JobProgress }
  | { readonly kind: 'writing'; readonly progress: JobProgress }
  | { readonly kind: 'counting'; readonly progress: JobProgress }
  | { readonly kind: 'done' }
  | { readonly kind: 'stopped' }
  | { readonly kind: 'failed'; readonly reason: string };

export type JobEvent =
  | { readonly kind: PhaseBefore; readonly progress: JobProgress }
  | { readonly kind: 'writing'; readonly progress: JobProgress }
  | { readonly kind: 'counting'; readonly progress: JobProgress }
  | { readonly kind: 'done' }
  | { readonly kind: 'stopped' }
  | { readonly kind: 'failed'; readonly reason: string };

/** A job that nothing was done for yet. */
export const PLANNED: JobState = { kind: 'planned' };

/** Whether nothing more becomes of a job. */
export const isOver = ({ kind }: JobState): boolean => kind === 'done' || kind === 'stopped' || kind === 'failed';

const UNTIL_COUNTED: readonly JobState['kind'][] = ['planned', 'sending', 'looking', 'writing', 'counting'];

/** The states an event leads on from. */
const LEADS_FROM: Readonly<Record<JobEvent['kind'], readonly JobState['kind'][]>> = {
  sending: ['planned', 'writing', 'sending'],
  looking: ['planned', 'writing', 'looking'],
  writing: ['planned', 'sending', 'looking', 'writing'],
  counting: UNTIL_COUNTED,
  done: ['counting'],
  stopped: UNTIL_COUNTED,
  failed: UNTIL_COUNTED,
};

/** The state after an event; the same state when the event does not belong to it. */
export const nextState = (state: JobState, event: JobEvent): JobState => (LEADS_FROM[event.kind].includes(state.kind) ? event : state);

/** Counting takes about as long as writing, and what comes before writing half of that: how much of the whole is done, from 0 to 1. */
export function partDone(state: JobState): number {
  if ('progress' in state && state.progress.frames === 0) return 0;
  if (state.kind === 'sending' || state.kind === 'looking') return (state.progress.framesDone / state.progress.frames) * 0.3;
  if (state.kind === 'writing' && state.progress.before) return 0.3 + (state.progress.framesDone / state.progress.frames) * 0.3;
  if (state.kind === 'writing') return (state.progress.framesDone / state.progress.frames) * 0.6;
  if (state.kind === 'counting') return 0.6 + (state.progress.framesDone / state.progress.frames) * 0.4;
  return state.kind === 'done' ? 1 : 0;
}
