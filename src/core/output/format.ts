import { isEvenSize, sizeText } from '@/core/document/size';
import { done, type Outcome, refused } from '@/core/outcome';
import type { FilmOptions } from '@/core/output/film';
import type { LoopOptions } from '@/core/output/loop';
import { checkNames, type Named, type NamedFrom, nameOf } from '@/core/output/names';
import type { PictureOptions } from '@/core/output/pictures';
import type { RenderPlan } from '@/core/render/renderPlan';

/** What is asked of a format besides its frames. */
export type FormatOptions = FilmOptions | PictureOptions | LoopOptions;

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

/** What comes of a handover: one file, or a picture file for each frame or drawing. */
export type FormatFiles = { readonly kind: 'one' | 'numbered'; readonly extension: string };

/** How pictures are held against those meant: pixel by pixel, as they were or multiplied by their transparency; or nearly, as a film’s or a picture file’s, without or with its transparency. */
export type Comparing = 'exact' | 'premultiplied' | 'film' | 'picture' | 'clearPicture';

/** A format as everybody but its writer knows it. Ids are stored in receipts and recipes: they never change. */
export type Format = {
  readonly id: string;
  readonly name: string;
  readonly group: FormatGroup;
  readonly files: FormatFiles;
  readonly carries: FormatCarries;
  /** What is asked of it unless told. */
  readonly start: FormatOptions;
  readonly compares: (options: FormatOptions, ground: 'paper' | 'none') => Comparing;
};

/** Formats that are chosen among each other, with the words over the choice. */
export type FormatGroup = 'film' | 'pictures' | 'loop';
export const FORMAT_GROUPS: Readonly<Record<FormatGroup, { readonly label: string; readonly words: string }>> = {
  film: { label: 'A film', words: 'A film' },
  pictures: { label: 'Picture files', words: 'Picture files' },
  loop: { label: 'A loop', words: 'A loop for the web' },
};

/** Whether what leaves keeps its transparency: where a format can and, in films, it is asked for. */
export const isTransparent = ({ carries }: Format, options: FormatOptions): boolean =>
  carries.transparency && (!('transparency' in options) || options.transparency);

/** What lies under the pictures: paper with the background, unless levels leave each by itself, and wherever no transparency is kept. */
export const groundFor = (format: Format, options: FormatOptions, withBackground: boolean): 'paper' | 'none' => {
  const isAlone = options.kind === 'pictures' && options.split === 'levels';
  return (withBackground && !isAlone) || !isTransparent(format, options) ? 'paper' : 'none';
};

/** Refuses a plan that a format can't hold by what it carries. */
export function refuseByCarries({ carries }: Format, plan: RenderPlan): Outcome<null> {
  if (carries.sizes === 'even' && !isEvenSize(plan.size))
    return refused(`Films need an even width and height, and this project is ${sizeText(plan.size)}: hand over pictures instead.`);
  return done(null);
}

/** The names of what is written: of the file that holds everything, if there is one, and of each picture file, if there are any. */
export type FileNames = { readonly whole: string | null; readonly pictures: readonly string[] };

const isPictures = (options: FormatOptions): options is PictureOptions => options.kind === 'pictures';

/** The names of a handover's files, of which `named` are what each picture is of; refused where two clash or a system would refuse one. */
export function fileNamesOf(
  { files }: Format,
  options: FormatOptions,
  baseName: string,
  named: readonly Named[],
  from: NamedFrom,
): Outcome<FileNames> {
  if (!isPictures(options)) {
    const whole = checkNames([`${baseName}.${files.extension}`]);
    return whole.ok ? done({ whole: whole.value[0] ?? null, pictures: [] }) : whole;
  }
  const { names, numbering } = options;
  const pictures = checkNames(named.map((each) => `${nameOf(names, each, from, numbering)}.${files.extension}`));
  return pictures.ok ? done({ whole: options.within === 'zip' ? `${baseName}.zip` : null, pictures: pictures.value }) : pictures;
}

/** The name a receipt bears: that of the whole, or what picture files in a folder have in common. */
export const receiptNameOf = ({ files }: Format, options: FormatOptions, baseName: string): string =>
  !isPictures(options)
    ? `${baseName}.${files.extension}`
    : options.within === 'zip'
      ? `${baseName}.zip`
      : `${baseName}.####.${files.extension}`;

/** Whether it is written into a folder of the person's, which is asked for first. */
export const needsFolder = (options: FormatOptions): boolean => isPictures(options) && options.within === 'folder';

/** Formats of earlier receipts, which told a ZIP from a folder, by what they are called now. */
const OLD_IDS: Readonly<Record<string, string>> = { 'png-zip': 'png', 'png-folder': 'png' };

/** The format of that id among those there are; undefined when there is none, as for a receipt of a later version. */
export const formatOf = <F extends Format>(formats: readonly F[], id: string): F | undefined =>
  formats.find((format) => format.id === (OLD_IDS[id] ?? id));

/** A choice among the formats of one group. */
export type FormatChoice = {
  readonly group: FormatGroup;
  readonly label: string;
  readonly words: string;
  readonly options: readonly { readonly value: string; readonly label: string }[];
};

/** What there is to choose from, made from the list of formats. */
export const formatChoices = (formats: readonly Format[]): readonly FormatChoice[] =>
  [...new Set(formats.map(({ group }) => group))].map((group) => ({
    group,
    ...FORMAT_GROUPS[group],
    options: formats.filter((format) => format.group === group).map((format) => ({ value: format.id, label: format.name })),
  }));
