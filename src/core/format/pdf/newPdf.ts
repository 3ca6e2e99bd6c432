import fontkit from '@pdf-lib/fontkit';
import { PDFDocument } from 'pdf-lib';
import type { PdfPen } from '@/core/format/pdf/pdfPen';

/** The faces papers are printed in, as font files. */
export type PrintFaces = { readonly regular: Uint8Array; readonly bold: Uint8Array };

/** A document with nothing on it yet, and what its pages are written with. */
export async function newPdf(title: string, faces: PrintFaces): Promise<PdfPen> {
  const document = await PDFDocument.create();
  document.registerFontkit(fontkit);
  document.setTitle(title);
  document.setProducer('Lime Tick');
  document.setCreator('Lime Tick');
  return {
    document,
    regular: await document.embedFont(faces.regular, { subset: true }),
    bold: await document.embedFont(faces.bold, { subset: true }),
  };
}
