import { type Aside, asideReader, type DrawTarget } from '@/contracts/local';
import { type Digest, levelById, type Project, type Shot, shotById } from '@/core/document/model';
import type { Step } from '@/core/edit/step';
import { stepWords } from '@/core/edit/words';
import { addShotStep } from '@/core/reel/shotEdits';
import { numberAfter } from '@/core/sheet/numbers';
import { nextDrawingNumber } from '@/core/sheet/reading';
import { dropAside, localPictures, putPicture, writeAside } from '@/features/sync/outbox';
import { useProjectStore } from '@/features/sync/projectStore';
import { forgetAside, make } from '@/features/sync/session';
import { toast } from '@/ui/toast';

/** Sets a picture aside whose drawing can't take it; nothing when it is empty. */
export async function setPictureAside(
  target: DrawTarget,
  picture: { readonly digest: Digest; readonly png: Uint8Array } | null,
  order: number,
  reason: string,
): Promise<void> {
  const { project } = useProjectStore.getState();
  if (!picture || !project) return;
  const step: Step = { type: 'setPicture', ...target, picture: picture.digest };
  const aside: Aside = {
    version: asideReader.version,
    order,
    id: null,
    projectId: project.id,
    kind: 'conflict',
    reason,
    words: stepWords(step),
    step,
    stored: null,
    pictures: [picture.digest],
    shot: null,
    asideAt: new Date().toISOString(),
  };
  await putPicture(picture);
  await writeAside(aside, order).catch(() => undefined);
  useProjectStore.setState((state) => ({ aside: [...state.aside, aside] }));
  toast.error(`A picture was set aside. ${reason} Nothing is lost: see “Set aside” above.`, { id: 'aside', duration: 12_000 });
}

const settleAside = async (aside: Aside): Promise<void> => {
  forgetAside(aside.order);
  await dropAside(aside).catch(() => undefined);
};

async function makeAside(aside: Aside, step: Step): Promise<void> {
  const png = await localPictures(aside.pictures);
  const pictureBytes = [...png.values()].reduce((sum, bytes) => sum + bytes.byteLength, 0);
  if (make(step, { pictures: aside.pictures, pictureBytes })) await settleAside(aside);
}

/** Makes what was set aside again, on the document as it is now: what is there by now is replaced by it. */
export const tryAgain = (aside: Aside): Promise<void> => (aside.step ? makeAside(aside, aside.step) : Promise.resolve());

/** The step that makes a picture that was set aside a new drawing of its level; null when it is none, or its level is gone. */
export function asNewDrawing(project: Project, { step }: Aside, newId: () => string): Step | null {
  if (step?.type !== 'setPicture' || step.picture === null) return null;
  const shot = shotById(project, step.shotId);
  const level = shot && levelById(shot, step.levelId);
  if (!level) return null;
  const place = level.drawings.findIndex((drawing) => drawing.id === step.drawingId);
  const original = level.drawings[place];
  const taken = new Set(level.drawings.map((drawing) => drawing.number));
  const number = original ? numberAfter(original.number, taken) : nextDrawingNumber(level);
  return {
    type: 'addDrawing',
    shotId: step.shotId,
    levelId: step.levelId,
    drawing: { id: newId(), number, role: original?.role ?? 'inbetween', picture: step.picture },
    index: original ? place + 1 : level.drawings.length,
  };
}

/** Makes a picture that was set aside a new drawing. */
export async function makeNewDrawing(aside: Aside): Promise<void> {
  const { project } = useProjectStore.getState();
  const step = project && asNewDrawing(project, aside, () => crypto.randomUUID());
  if (step?.type !== 'addDrawing') return;
  await makeAside(aside, step);
  toast.message(`It is drawing ${step.drawing.number} now. Expose it where it belongs.`);
}

/** Brings a removed shot back as it was, with a code of its own, and makes everything in it again that was set aside for it. */
export async function makeInShotCopy(aside: Aside): Promise<void> {
  const { project, aside: all } = useProjectStore.getState();
  const { shot } = aside;
  if (!project || !shot) return;
  if (!shotById(project, shot.id)) {
    const codes = new Set(project.shots.map((each) => each.code));
    const code = codes.has(shot.code) ? numberAfter(shot.code, codes) : shot.code;
    if (!make(addShotStep(project, { ...shot, code }, project.reel.items.length))) return;
  }
  for (const each of all) if (each.shot?.id === shot.id) await tryAgain(each);
}

const base64 = (bytes: Uint8Array): string => {
  let text = '';
  for (let start = 0; start < bytes.byteLength; start += 0x8000) text += String.fromCharCode(...bytes.subarray(start, start + 0x8000));
  return btoa(text);
};

/** What was set aside as a file: everything it holds, its pictures as PNG in base64. */
export async function asideFile(aside: Aside): Promise<string> {
  const pictures = await localPictures(aside.pictures);
  return `${JSON.stringify({ file: 'lime-tick-set-aside', ...aside, pictureFiles: Object.fromEntries([...pictures].map(([digest, png]) => [digest, base64(png)])) }, null, 2)}\n`;
}

/** Throws something away that was set aside, because a person said so. */
export const discardAside = settleAside;

/** The shot something was set aside for, when it was removed. */
export const removedShotOf = (project: Project, { shot }: Aside): Shot | null => (shot && !shotById(project, shot.id) ? shot : null);
