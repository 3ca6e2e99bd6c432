import { drawingById, type Level } from '@/core/sheet/document';
import { neighbourDrawing } from '@/core/sheet/reading';
import { runAt } from '@/core/sheet/runs';
import type { OnionSkin } from '@/features/project/viewStore';

/** A neighbouring drawing that shines through: its picture, how much of it, and from which side. */
export type OnionSheet = { readonly picture: string; readonly alpha: number; readonly side: 'before' | 'after' };

/** Each further neighbour shows this much of the one nearer to the page. */
const FADE = 0.6;

/** Neighbouring drawings around a frame, the furthest first. Still and guide levels have none. */
export function onionSheets(level: Level, frame: number, onion: OnionSkin): readonly OnionSheet[] {
  if (!onion.on || level.kind !== 'animated') return [];
  const here = runAt(level.exposures, frame);
  const showing = here?.drawing ?? null;
  const start = showing ? (here?.startFrame ?? frame) : frame;
  const end = showing ? (here?.endFrame ?? frame + 1) : frame + 1;
  const sheets: OnionSheet[] = [];
  const take = (side: 'before' | 'after', steps: number, percent: number) => {
    for (let step = steps; step > 0; step--) {
      const run = neighbourDrawing(level, side === 'before' ? start : end - 1, side, step);
      const picture = run && run.drawing !== showing ? drawingById(level, run.drawing)?.picture : undefined;
      if (picture && percent > 0) sheets.push({ picture, alpha: (percent / 100) * FADE ** (step - 1), side });
    }
  };
  take('after', onion.after, onion.afterPercent);
  take('before', onion.before, onion.beforePercent);
  return sheets;
}

/** Why no neighbour shows; null when one does. */
export function whyNoOnion(level: Level | undefined, frame: number, onion: OnionSkin): string | null {
  if (!onion.on) return 'switched off';
  if (!level) return 'there is no level';
  if (level.kind !== 'animated') return `${level.name} is a ${level.kind} level and has no neighbours`;
  if (onionSheets(level, frame, onion).length > 0) return null;
  if (onion.before === 0 && onion.after === 0) return 'it reaches over no drawing';
  if (onion.beforePercent === 0 && onion.afterPercent === 0) return 'its strength is 0';
  return 'no drawn neighbour within its reach';
}
