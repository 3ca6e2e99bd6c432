import type { Digest, Project, Shot } from '@/core/document/model';
import { contactPages } from '@/core/format/contact/contactSheet';
import { newPdf, type PrintFaces } from '@/core/format/pdf/newPdf';
import { PAPERS, type PaperSize } from '@/core/format/pdf/pageLayout';
import { BLACK, finishPdf, GREY, PALE, type WordsMaker, write } from '@/core/format/pdf/pdfPen';

const COLUMNS = 4;

/** A shot's drawings as a contact sheet. `pictureOf` gives a small JPEG of a picture; null for one that is missing. */
export async function contactPdf(
  project: Project,
  shot: Shot,
  paper: PaperSize,
  faces: PrintFaces,
  maker: WordsMaker | null,
  pictureOf: (picture: Digest) => Promise<Uint8Array | null>,
): Promise<Uint8Array> {
  const ink = await newPdf(`${project.title}, shot ${shot.code}, drawings`, faces, maker);
  const { width, height } = PAPERS[paper];
  for (const { marks } of contactPages(project, shot, { width, height, columns: COLUMNS })) {
    const page = ink.document.addPage([width, height]);
    for (const mark of marks) {
      if (mark.kind === 'words') {
        const face = mark.ink === 'bold' ? ink.bold : ink.regular;
        write(page, mark.words, mark.left, height - mark.bottom, mark.size, face, mark.mostWidth, mark.ink === 'grey' ? GREY : BLACK);
        continue;
      }
      const place = { x: mark.left, y: height - mark.top - mark.height, width: mark.width, height: mark.height };
      const jpeg = mark.picture && (await pictureOf(mark.picture));
      if (jpeg) page.drawImage(await ink.document.embedJpg(jpeg), place);
      page.drawRectangle({ ...place, borderColor: PALE, borderWidth: 0.5 });
    }
  }
  return finishPdf(ink);
}
