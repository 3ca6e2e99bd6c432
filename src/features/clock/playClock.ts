/** What says how long playing has gone on, in milliseconds; `time` is when the page is painting, as the browser says it. */
export type PlayClock = {
  start(): void;
  elapsedMilliseconds(time: number): number;
};

/** The page's own clock, from the first time it is asked. */
export function pageClock(): PlayClock {
  let start: number | null = null;
  return {
    elapsedMilliseconds(time) {
      start ??= time;
      return Math.max(0, time - start);
    },
    start: () => undefined,
  };
}
