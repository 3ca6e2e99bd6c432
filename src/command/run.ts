import { parseArgs } from 'node:util';
import { count } from '@/command/count';
import { type CountOptions, EXIT, type Output } from '@/command/options';
import { watchFolder } from '@/command/watchFolder';
import { parseRate } from '@/core/time/rate';

const USAGE = `lime-tick count FILE …   counts films, pictures, loops and sounds, frame by frame

  --against RECEIPT|PACKAGE|FILE   holds each of them against a receipt, a project’s package or another file
  --rate 24                        the rate they should have; pictures are read at it
  --json                           one JSON object a line (docs/count.schema.json)
  --watch FOLDER                   counts what arrives in a folder, until it is stopped

A FILE is a film, a loop, a sound, a ZIP or a folder; pictures that differ in their number alone are one.
Ends with 0 when all agrees, 1 when something disagrees, 2 when something could not be read.`;

/** Back to the line's beginning, and nothing on it (ECMA-48: carriage return, erase in line). */
const FRESH_LINE = '\r\x1b[K';

const CONSOLE: Output = {
  print: (line) => console.log(line),
  complain: (line) => console.error(line),
  ...(process.stderr.isTTY
    ? {
        tell: (words: string | null) =>
          void process.stderr.write(`${FRESH_LINE}${words?.slice(0, (process.stderr.columns || 80) - 1) ?? ''}`),
      }
    : {}),
};

type Asked = { readonly files: readonly string[]; readonly watch: string | null; readonly options: CountOptions };

/** Reads what was written after the command; a string says what is wrong with it. */
function asked(args: readonly string[]): Asked | string {
  try {
    const { values, positionals } = parseArgs({
      args: [...args],
      allowPositionals: true,
      options: {
        against: { type: 'string' },
        rate: { type: 'string' },
        json: { type: 'boolean', default: false },
        watch: { type: 'string' },
      },
    });
    const rate = values.rate === undefined ? null : parseRate(values.rate);
    if (rate && !rate.ok) return rate.reason;
    if (positionals.length === 0 && values.watch === undefined) return 'Say which files to count.';
    return {
      files: positionals,
      watch: values.watch ?? null,
      options: { against: values.against ?? null, rate: rate?.value ?? null, json: values.json },
    };
  } catch (error) {
    return error instanceof Error ? error.message : String(error);
  }
}

/** Runs the command and resolves with its exit status. */
export async function run(args: readonly string[], output: Output = CONSOLE, stop?: AbortSignal): Promise<number> {
  const [command, ...rest] = args;
  if (command === '--help' || command === '-h' || command === undefined || rest.includes('--help')) {
    output.print(USAGE);
    return command === undefined ? EXIT.unreadable : EXIT.agrees;
  }
  if (command !== 'count') {
    output.complain(`There is no command “${command}”.\n\n${USAGE}`);
    return EXIT.unreadable;
  }
  const what = asked(rest);
  if (typeof what === 'string') {
    output.complain(`${what}\n\n${USAGE}`);
    return EXIT.unreadable;
  }
  if (what.watch !== null) return watchFolder(what.watch, what.options, output, stop);
  return count(what.files, what.options, output);
}
