import { readFile } from 'node:fs/promises';
import path from 'node:path';
import sharp from 'sharp';
import type { Drawing, Project, Shot } from '@/core/document/model';
import { contactPdf } from '@/core/format/pdf/contactPdf';
import type { PrintFaces } from '@/core/format/pdf/newPdf';
import type { PaperSize } from '@/core/format/pdf/pageLayout';
import { type PrintChoices, sheetPdf } from '@/core/format/pdf/sheetPdf';
import { type Answer, answered, noSuchProject } from '@/server/service/answer';
import { getDatabase, readAtOnce } from '@/server/store/database';
import { loadDocument } from '@/server/store/loadDocument';
import { loadPictures } from '@/server/store/pictures';

let faces: Promise<PrintFaces> | undefined;

/** The faces sheets are printed in; they ship with the program's packages. */
function printFaces(): Promise<PrintFaces> {
  const file = (weight: number) =>
    readFile(
      path.join(
        process.cwd(),
        'node_modules/@fontsource/atkinson-hyperlegible-next/files',
        `atkinson-hyperlegible-next-latin-${weight}-normal.woff`,
      ),
    );
  faces ??= Promise.all([file(400), file(700)]).then(([regular, bold]) => ({ regular, bold }));
  return faces;
}

type Printed = { readonly fileName: string; readonly pdf: Uint8Array };

/** A shot as the database has it; refused where there is none. */
async function shotOf(projectId: string, shotId: string): Promise<Answer<{ readonly project: Project; readonly shot: Shot }>> {
  const document = await readAtOnce((tx) => loadDocument(tx, projectId));
  if (!document) return noSuchProject(projectId);
  const { project } = document;
  const shot = project.shots.find((candidate) => candidate.id === shotId);
  return shot ? answered({ project, shot }) : { ok: false, status: 404, error: `${project.title} has no such shot.` };
}

/** How wide a drawing is on a contact sheet, in pixels: enough for 300 dots an inch. */
const CONTACT_PX = 540;

/** A shot's drawings, each once, as a PDF with a name for its file. */
export async function printContact(projectId: string, shotId: string, paper: PaperSize): Promise<Answer<Printed>> {
  const found = await shotOf(projectId, shotId);
  if (!found.ok) return found;
  const { project, shot } = found.value;
  const database = await getDatabase();
  const pictureOf = async ({ picture }: Drawing): Promise<Uint8Array | null> => {
    const png = picture && (await loadPictures(database, [picture])).get(picture);
    if (!png) return null;
    return sharp(png)
      .flatten({ background: '#ffffff' })
      .resize({ width: CONTACT_PX, withoutEnlargement: true })
      .jpeg({ quality: 88 })
      .toBuffer();
  };
  const pdf = await contactPdf(project, shot, paper, await printFaces(), pictureOf);
  return answered({ fileName: `${project.title} ${shot.code} drawings.pdf`, pdf });
}

/** A shot's sheet, as the database has it, as a PDF with a name for its file. */
export async function printSheet(projectId: string, shotId: string, choices: PrintChoices): Promise<Answer<Printed>> {
  const found = await shotOf(projectId, shotId);
  if (!found.ok) return found;
  const { project, shot } = found.value;
  return answered({ fileName: `${project.title} ${shot.code} sheet.pdf`, pdf: await sheetPdf(project, shot, choices, await printFaces()) });
}
