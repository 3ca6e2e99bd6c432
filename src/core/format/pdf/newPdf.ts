import fontkit from '@pdf-lib/fontkit';
import { PDFDocument } from 'pdf-lib';
import { Face, type PdfPen, type WordsMaker } from '@/core/format/pdf/pdfPen';

/** The face papers are printed in, as font files of each weight; the first that has a letter gives it. */
export type PrintFaces = { readonly regular: readonly Uint8Array[]; readonly bold: readonly Uint8Array[] };

/** A document with nothing on it yet, and what its pages are written with; `maker` makes pictures of words the face has no letters for. */
export async function newPdf(title: string, faces: PrintFaces, maker: WordsMaker | null): Promise<PdfPen> {
  const document = await PDFDocument.create();
  document.registerFontkit(fontkit);
  document.setTitle(title);
  document.setProducer('Lime Tick');
  document.setCreator('Lime Tick');
  const embedded = (files: readonly Uint8Array[]) => Promise.all(files.map((file) => document.embedFont(file, { subset: true })));
  return {
    document,
    regular: new Face(await embedded(faces.regular), false, maker),
    bold: new Face(await embedded(faces.bold), true, maker),
  };
}
