import { type Aside, type AsideKind, asideReader, type WaitingStep } from '@/contracts/local';
import type { Shot } from '@/core/document/model';
import { stepWords } from '@/core/edit/words';

/** A waiting step as it is set aside: with why, and with the shot it was for when that was removed. */
export const asideOf = (entry: WaitingStep, kind: AsideKind, reason: string, shot: Shot | null, at: Date): Aside => ({
  version: asideReader.version,
  order: entry.order,
  id: entry.id,
  projectId: entry.projectId,
  kind,
  reason,
  words: stepWords(entry.step),
  step: entry.step,
  stored: null,
  pictures: entry.pictures,
  shot,
  asideAt: at.toISOString(),
});
