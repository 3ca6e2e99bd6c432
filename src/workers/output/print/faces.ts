import type { PrintFaces } from '@/core/format/pdf/newPdf';

/* The face papers are printed in. It ships with the program; a browser gives its file to whoever asks for its address. */

/** The name under which words on canvases are drawn in it. */
const FACE = 'Lime Tick Print';

/** Letters it lacks are drawn in whatever the machine has. */
export const FAMILIES = `"${FACE}", system-ui, sans-serif`;

const FILES = {
  regular: [
    new URL(
      '../../../../node_modules/@fontsource/atkinson-hyperlegible-next/files/atkinson-hyperlegible-next-latin-400-normal.woff',
      import.meta.url,
    ),
    new URL(
      '../../../../node_modules/@fontsource/atkinson-hyperlegible-next/files/atkinson-hyperlegible-next-latin-ext-400-normal.woff',
      import.meta.url,
    ),
  ],
  bold: [
    new URL(
      '../../../../node_modules/@fontsource/atkinson-hyperlegible-next/files/atkinson-hyperlegible-next-latin-700-normal.woff',
      import.meta.url,
    ),
    new URL(
      '../../../../node_modules/@fontsource/atkinson-hyperlegible-next/files/atkinson-hyperlegible-next-latin-ext-700-normal.woff',
      import.meta.url,
    ),
  ],
} as const;

async function fileAt(url: URL): Promise<Uint8Array<ArrayBuffer>> {
  const response = await fetch(url);
  if (!response.ok) throw new Error('The face sheets are printed in can’t be loaded.');
  return new Uint8Array(await response.arrayBuffer());
}

/** The face's files; canvases of this worker know it then, too, where the browser lets them. */
export async function loadFaces(): Promise<PrintFaces> {
  const [regular, bold] = await Promise.all([Promise.all(FILES.regular.map(fileAt)), Promise.all(FILES.bold.map(fileAt))]);
  if ('fonts' in self && typeof FontFace === 'function')
    // The files for one weight hold different letters; a family of one name takes the first alone, which has the most.
    for (const [weight, files] of [
      ['400', regular],
      ['700', bold],
    ] as const)
      (self as unknown as { fonts: FontFaceSet }).fonts.add(
        await new FontFace(FACE, (files[0] as Uint8Array<ArrayBuffer>).slice().buffer, { weight }).load(),
      );
  return { regular, bold };
}
