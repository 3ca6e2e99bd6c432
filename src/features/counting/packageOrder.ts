import { BlobReader, Uint8ArrayWriter, ZipReader } from '@zip.js/zip.js';
import { checkFactsBytes, FACTS_FILE, NO_FACTS, readPackageFacts } from '@/contracts/packageFile';
import { done, type Outcome, refused } from '@/core/outcome';
import { heldAgainstReel } from '@/core/outside/heldAgainstReel';
import { drawingsAlone } from '@/core/render/drawingsAlone';
import { planOfReel } from '@/core/render/renderPlan';
import type { PlanOrder } from '@/workers/client';

/** The reel of a project's package as something files are held against; its pictures are read from it as they are wanted. */
export async function packageOrder(file: File): Promise<Outcome<PlanOrder>> {
  const zip = new ZipReader(new BlobReader(file), { useWebWorkers: false });
  try {
    const entry = (await zip.getEntries()).find(({ filename }) => filename === FACTS_FILE);
    if (!entry || entry.directory) return refused(NO_FACTS);
    const size = checkFactsBytes(entry.uncompressedSize);
    if (!size.ok) return size;
    const read = readPackageFacts(await entry.getData(new Uint8ArrayWriter(), { checkSignature: true }));
    if (!read.ok) return read;
    const { project } = read.value;
    const plan = planOfReel(project);
    // Its sounds are not mixed: what is heard of it would have to be decoded first.
    return plan
      ? done({
          plan,
          drawingsAlone: drawingsAlone(project, null),
          held: heldAgainstReel(project, plan, project.title),
          loudness: null,
          packed: file,
        })
      : refused('There is nothing on its reel to hold files against.');
  } catch {
    return refused('It is not a whole ZIP: it was cut, or is something else.');
  } finally {
    await zip.close();
  }
}
