import type { Digest, Drawing, Level, Project, Shot } from '@/core/document/model';
import { picturesOf } from '@/core/document/originals';
import { writeDrawingTables } from '@/core/format/drawings/drawingTables';
import { fileNamePart } from '@/core/output/sequenceNames';
import { type Answer, answered, noSuchProject } from '@/server/service/answer';
import { documentAt } from '@/server/service/documents';
import { type OutgoingPackage, type OutgoingZip, picturesInOrder, zipped } from '@/server/service/package/outgoing';
import { DRAWINGS_README } from '@/server/service/package/readme';
import { getDatabase, readAtOnce } from '@/server/store/database';
import { revisionOf } from '@/server/store/journal';
import { sizesInBytes } from '@/server/store/pictures';

/* The drawings alone: every picture once, in a folder a level, with tables of which is which and how long each is held. */

/** Where each level's pictures lie: numbered as they stand, so that folders sort and no two are one. */
function foldersOf({ shots }: Project): (shot: Shot, level: Level | null) => string {
  const name = (index: number, count: number, words: string) =>
    `${String(index + 1).padStart(String(count).length, '0')}_${fileNamePart(words)}`;
  const folders = new Map<Shot | Level, string>();
  shots.forEach((shot, index) => {
    const ofShot = name(index, shots.length, shot.code);
    folders.set(shot, ofShot);
    shot.levels.forEach((level, place) => void folders.set(level, `${ofShot}/${name(place, shot.levels.length, level.name)}`));
  });
  return (shot, level) => folders.get(level ?? shot) ?? '';
}

/** The file of each picture: named by the first drawing that shows it. */
function filesOf(project: Project, folderOf: (shot: Shot, level: Level | null) => string): ReadonlyMap<Digest, string> {
  const files = new Map<Digest, string>();
  const taken = new Set<string>();
  for (const shot of project.shots)
    for (const level of shot.levels)
      for (const { number, picture } of level.drawings) {
        if (!picture || files.has(picture)) continue;
        const stem = `${folderOf(shot, level)}/${fileNamePart(number)}`;
        let name = `${stem}.png`;
        // Numbers that differ in large and small letters alone are one file on many systems.
        for (let again = 2; taken.has(name); again++) name = `${stem}_${again}.png`;
        taken.add(name);
        files.set(picture, name);
      }
  return files;
}

/** A project's drawings alone as a ZIP, of this moment. */
export async function drawingsOf(projectId: string): Promise<Answer<OutgoingPackage>> {
  const moment = await readAtOnce(async (tx) => {
    const revision = await revisionOf(tx, projectId);
    if (revision === null) return null;
    const project = await documentAt(tx, projectId, revision);
    return { project, bytesOf: await sizesInBytes(tx, picturesOf(project)) };
  });
  if (!moment) return noSuchProject(projectId);
  const { project, bytesOf } = moment;
  const folderOf = foldersOf(project);
  const files = filesOf(project, folderOf);
  const stored = [...files.keys()].filter((digest) => bytesOf.has(digest));
  const fileOf = ({ picture }: Drawing): string => (picture && bytesOf.has(picture) ? (files.get(picture) ?? '') : '');
  const fill = async (zip: OutgoingZip) => {
    await zip.addText('README.txt', DRAWINGS_README);
    for (const [name, table] of Object.entries(writeDrawingTables(project, folderOf, fileOf))) await zip.addText(name, table);
    // Pictures are packed already.
    for await (const { digest, png } of picturesInOrder(await getDatabase(), stored)) await zip.addPacked(files.get(digest) as string, png);
  };
  return answered({
    fileName: `${fileNamePart(project.title)}-drawings.zip`,
    aboutBytes: stored.reduce((sum, digest) => sum + (bytesOf.get(digest) ?? 0), 0),
    bytes: zipped(new Date(), fill),
  });
}
