// Loaded before a server: once it has run for some seconds its clock stands a day earlier, as when somebody sets it back.
const AFTER_MILLISECONDS = Number(process.env.CLOCK_SET_BACK_AFTER ?? 8000);
const BACK_MILLISECONDS = 24 * 60 * 60 * 1000;
const RealDate = Date;
const started = performance.now();
const back = () => (performance.now() - started > AFTER_MILLISECONDS ? BACK_MILLISECONDS : 0);

globalThis.Date = class extends RealDate {
  constructor(...given) {
    if (given.length === 0) super(RealDate.now() - back());
    else super(...given);
  }

  static now() {
    return RealDate.now() - back();
  }
};
