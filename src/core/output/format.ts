import { isEvenSize, sizeText } from '@/core/document/size';
import { done, type Outcome, refused } from '@/core/outcome';
import { sequenceFileNames } from '@/core/output/sequenceNames';
import type { RenderPlan } from '@/core/render/renderPlan';

/** What a format can hold, as data: screens, recipes and checks read it instead of knowing formats by name. */
export type FormatCarries = {
  /** Rates its frames can have; `none` for pictures, which have no times. */
  readonly rates: 'any' | 'none';
  readonly sizes: 'any' | 'even';
  readonly transparency: boolean;
  readonly sound: boolean;
  /** Whether every pixel comes out as it went in, or near it: films are coded. */
  readonly colours: 'exact' | 'near';
};

/** What comes of a handover: one file, or a picture file a frame, numbered, in a ZIP or in a folder of the person's. */
export type FormatFiles =
  | { readonly kind: 'one'; readonly extension: string }
  | { readonly kind: 'numbered'; readonly extension: string; readonly within: 'zip' | 'folder' };

/** A format as everybody but its writer knows it. Ids are stored in receipts and recipes: they never change. */
export type Format = {
  readonly id: string;
  readonly name: string;
  readonly group: FormatGroup;
  readonly files: FormatFiles;
  readonly carries: FormatCarries;
};

/** Formats that are chosen among each other, with the words over the choice. */
export type FormatGroup = 'film' | 'png';
export const FORMAT_GROUPS: Readonly<Record<FormatGroup, { readonly label: string; readonly words: string }>> = {
  film: { label: 'A film', words: 'A film' },
  png: { label: 'Numbered pictures', words: 'Numbered PNG pictures, one a frame' },
};

/** What lies under the pictures: paper with the background, and wherever a format holds no transparency. */
export const groundFor = ({ carries }: Format, withBackground: boolean): 'paper' | 'none' =>
  withBackground || !carries.transparency ? 'paper' : 'none';

/** Refuses a plan that a format can't hold by what it carries. */
export function refuseByCarries({ carries }: Format, plan: RenderPlan): Outcome<null> {
  if (carries.sizes === 'even' && !isEvenSize(plan.size))
    return refused(`Films need an even width and height, and this project is ${sizeText(plan.size)}: hand over pictures instead.`);
  return done(null);
}

/** The names of what is written: of the file that holds everything, if there is one, and of each picture file, if there are any. */
export type FileNames = { readonly whole: string | null; readonly pictures: readonly string[] };

/** The names of a handover's files. `firstNumber` is the number of its first frame. */
export function fileNamesOf({ files }: Format, baseName: string, firstNumber: number, frames: number): FileNames {
  if (files.kind === 'one') return { whole: `${baseName}.${files.extension}`, pictures: [] };
  const pictures = sequenceFileNames(baseName, firstNumber, frames, files.extension);
  return { whole: files.within === 'zip' ? `${baseName}.zip` : null, pictures };
}

/** The name a receipt bears: that of the whole, or of the numbered files with `####` for their number. */
export const receiptNameOf = ({ files }: Format, baseName: string): string =>
  files.kind === 'one'
    ? `${baseName}.${files.extension}`
    : files.within === 'zip'
      ? `${baseName}.zip`
      : `${baseName}.####.${files.extension}`;

/** Whether it is written into a folder of the person's, which is asked for first. */
export const needsFolder = ({ files }: Format): boolean => files.kind === 'numbered' && files.within === 'folder';

/** The format of that id among those there are; undefined when there is none, as for a receipt of a later version. */
export const formatOf = <F extends Format>(formats: readonly F[], id: string): F | undefined => formats.find((format) => format.id === id);

/** A choice among the formats of one group. What can't be chosen in this browser says why. */
export type FormatChoice = {
  readonly group: FormatGroup;
  readonly label: string;
  readonly words: string;
  readonly options: readonly { readonly value: string; readonly label: string; readonly disabled: boolean; readonly title?: string }[];
};

/** What there is to choose from, made from the list of formats. */
export const formatChoices = (formats: readonly Format[], canPickFolder: boolean): readonly FormatChoice[] =>
  [...new Set(formats.map(({ group }) => group))].map((group) => ({
    group,
    ...FORMAT_GROUPS[group],
    options: formats
      .filter((format) => format.group === group)
      .map((format) => {
        const disabled = needsFolder(format) && !canPickFolder;
        return {
          value: format.id,
          label: format.name,
          disabled,
          ...(disabled ? { title: 'This browser can’t write into a folder: take the ZIP.' } : {}),
        };
      }),
  }));
