import { done, type Outcome, refused } from '@/core/outcome';
import type { Area } from '@/core/raster/changedArea';

/* The list that goes beside a strip, one picture that holds many: where each of them lies, and which is shown how long. */

const VERSION = 1;

/** `pictures` are where each lies in the strip, in pixels from its left and top; `shown` which of them (from 0), for how long. `plays` is 0 for ever. */
export type StripList = {
  readonly version: number;
  readonly image: string;
  readonly width: number;
  readonly height: number;
  readonly plays: number;
  readonly pictures: readonly Area[];
  readonly shown: readonly { readonly picture: number; readonly microseconds: number }[];
};

/** The list as a JSON file, a line for each picture. */
export const stripJson = (list: Omit<StripList, 'version'>): string => {
  const { pictures, shown, ...facts } = list;
  const lines = (values: readonly unknown[]) => values.map((value) => `    ${JSON.stringify(value)}`).join(',\n');
  const head = JSON.stringify({ version: VERSION, ...facts }).slice(1, -1);
  return `{${head},\n  "pictures": [\n${lines(pictures)}\n  ],\n  "shown": [\n${lines(shown)}\n  ]\n}\n`;
};

/** Reads such a list; refused where it is none. */
export function readStripJson(text: string): Outcome<StripList> {
  try {
    const list = JSON.parse(text) as StripList;
    if (list.version !== VERSION || !Array.isArray(list.pictures) || !Array.isArray(list.shown))
      return refused('The strip’s list is of another version.');
    return done(list);
  } catch {
    return refused('The strip’s list could not be read.');
  }
}
