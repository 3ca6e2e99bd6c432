import { expose } from 'comlink';
import { contactPdf } from '@/core/format/pdf/contactPdf';
import { sheetPdf } from '@/core/format/pdf/sheetPdf';
import { smallJpeg } from '@/workers/output/print/contactPictures';
import { contactPng } from '@/workers/output/print/contactPng';
import { loadFaces } from '@/workers/output/print/faces';
import { wordsMaker } from '@/workers/output/print/wordsMaker';
import { type PrintWorker, printOrderSchema } from '@/workers/protocol';

const worker: PrintWorker = {
  async print(order, onProgress) {
    const { project, shot, what } = printOrderSchema.parse(order);
    const faces = await loadFaces();
    const told = (part: number) => void onProgress(part);
    if (what.kind === 'contactPng') return contactPng(project, shot, told);
    if (what.kind === 'sheet') return pdfBlob(await sheetPdf(project, shot, what.choices, what.heard, faces, wordsMaker()));
    const pictures = shot.levels.reduce((sum, { drawings }) => sum + drawings.filter(({ picture }) => picture).length, 0);
    let done = 0;
    const pictureOf = async (picture: string) => {
      const jpeg = await smallJpeg(picture);
      told(++done / Math.max(1, pictures));
      return jpeg;
    };
    return pdfBlob(await contactPdf(project, shot, what.paper, faces, wordsMaker(), pictureOf));
  },
};

const pdfBlob = (pdf: Uint8Array): Blob => new Blob([pdf as Uint8Array<ArrayBuffer>], { type: 'application/pdf' });

expose(worker);
