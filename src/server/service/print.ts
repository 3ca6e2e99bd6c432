import { readFile } from 'node:fs/promises';
import path from 'node:path';
import { type PrintChoices, type PrintFaces, sheetPdf } from '@/core/format/pdf/sheetPdf';
import { type Answer, answered, noSuchProject } from '@/server/service/answer';
import { readAtOnce } from '@/server/store/database';
import { loadDocument } from '@/server/store/loadDocument';

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

/** A shot's sheet, as the database has it, as a PDF with a name for its file. */
export async function printSheet(
  projectId: string,
  shotId: string,
  choices: PrintChoices,
): Promise<Answer<{ fileName: string; pdf: Uint8Array }>> {
  const document = await readAtOnce((tx) => loadDocument(tx, projectId));
  if (!document) return noSuchProject(projectId);
  const { project } = document;
  const shot = project.shots.find((candidate) => candidate.id === shotId);
  if (!shot) return { ok: false, status: 404, error: `${project.title} has no such shot.` };
  return answered({ fileName: `${project.title} ${shot.code} sheet.pdf`, pdf: await sheetPdf(project, shot, choices, await printFaces()) });
}
