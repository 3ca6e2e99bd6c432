import type { Against } from '@/command/against';
import { type Countable, countablesAt } from '@/command/openPath';
import { type CountOptions, EXIT, type Output } from '@/command/options';
import { progressOf } from '@/command/progress';
import type { CountLine } from '@/contracts/count';
import type { Agreement } from '@/core/outside/agreementWords';
import { type CountedOutside, countOutside } from '@/core/outside/countOutside';
import { countLine, countSentences } from '@/core/outside/countWords';
import { COUNT_VERSION } from '@/core/outside/outsideCount';
import { rateName, sameRate } from '@/core/time/rate';

const reasonOf = (error: unknown): string => (error instanceof Error ? error.message : String(error));

/** Held against the rate alone that it should have. */
function againstRate({ count }: CountedOutside, { rate }: CountOptions): Agreement | null {
  if (!rate || !count.rate) return null;
  const agrees = [count.rate, ...count.otherRates].some((each) => sameRate(each, rate)) && count.mistimedFrames.length === 0;
  return {
    agrees,
    headline: agrees
      ? `Agrees: it runs at ${rateName(rate)} a second.`
      : `It runs at ${rateName(count.rate)} a second, not at ${rateName(rate)}.`,
    sentences: [],
    lines: [],
  };
}

const agreementOf = async (counted: CountedOutside, against: Against | null, options: CountOptions): Promise<Agreement | null> =>
  against ? against.hold(counted, options.rate) : againstRate(counted, options);

function asText({ count, sentences, agreement }: Extract<CountLine, { kind: 'counted' }>): string {
  const lines = [count.name, `  ${count.made} · ${countLine(count)}`];
  if (agreement) {
    lines.push(`  ${agreement.agrees ? '=' : '≠'} ${agreement.headline}`);
    for (const sentence of agreement.sentences) lines.push(`    ${sentence}`);
    for (const { what, asked, counted, agrees } of agreement.lines) if (!agrees) lines.push(`    ${what}: ${counted}, planned ${asked}`);
  }
  for (const sentence of sentences) lines.push(`  ${sentence}`);
  return lines.join('\n');
}

/** Counts one thing and tells it; how it ends. */
export async function countOne(thing: Countable, against: Against | null, options: CountOptions, output: Output): Promise<number> {
  const progress = progressOf(thing.name, output);
  try {
    const opened = await thing.open();
    progress.opened(opened.listedFrames);
    const counted = await countOutside(opened, progress.onFrame);
    progress.end();
    const agreement = await agreementOf(counted, against, options);
    const line: CountLine = {
      version: COUNT_VERSION,
      kind: 'counted',
      file: thing.name,
      count: counted.count,
      sentences: countSentences(counted.count, counted.seen),
      agreement: agreement && { against: against?.name ?? 'the rate', ...agreement },
    };
    output.print(options.json ? JSON.stringify(line) : asText(line));
    if (counted.count.unreadable.length > 0) return EXIT.unreadable;
    return agreement && !agreement.agrees ? EXIT.disagrees : EXIT.agrees;
  } catch (error) {
    progress.end();
    const reason = reasonOf(error);
    const line: CountLine = { version: COUNT_VERSION, kind: 'unreadable', file: thing.name, reason };
    if (options.json) output.print(JSON.stringify(line));
    else output.complain(`${thing.name}\n  ${reason}`);
    return EXIT.unreadable;
  }
}

/** What things are held against; what reads plans is loaded where there is one. */
export async function plannedBy({ against, rate }: CountOptions): Promise<Against | null> {
  if (against === null) return null;
  const { readAgainst } = await import('@/command/against');
  return readAgainst(against, rate);
}

/** Counts all that lies at paths; the worst of how each ends. */
export async function count(paths: readonly string[], options: CountOptions, output: Output): Promise<number> {
  let things: readonly Countable[];
  let against: Against | null;
  try {
    against = await plannedBy(options);
    things = await countablesAt(paths, against?.byDigests);
  } catch (error) {
    output.complain(reasonOf(error));
    return EXIT.unreadable;
  }
  if (things.length === 0) {
    output.complain('There is nothing to count there.');
    return EXIT.unreadable;
  }
  let status: number = EXIT.agrees;
  for (const thing of things) status = Math.max(status, await countOne(thing, against, options, output));
  return status;
}
