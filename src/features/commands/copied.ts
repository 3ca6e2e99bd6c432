import { blankBlock } from '@/core/edit/blockEdits';
import type { Edit } from '@/core/edit/edit';
import { type CopiedBlock, copyBlock, pasteCopied, pasteWritten } from '@/core/edit/pasteEdits';
import type { Outcome } from '@/core/outcome';
import { blockText, parseBlockText } from '@/core/sheet/blockText';
import { sheetColumns } from '@/core/sheet/columns';
import { plural } from '@/core/time/counts';
import { chosenBlock, contextNow, take, type View } from '@/features/project/editContext';
import { inView } from '@/features/project/hooks';
import { useViewStore } from '@/features/project/viewStore';
import { toast } from '@/ui/toast';

/*
 * What was copied last is remembered with its drawings, and goes to the clipboard as text. When that very
 * text comes back the drawings are meant; any other text is read as numbers.
 */
let copied: { readonly text: string; readonly block: CopiedBlock } | null = null;

/** Whether a block of exposures was copied here. */
export const hasCopied = (): boolean => copied !== null;

/** Copies the chosen block and gives its text for the clipboard; null when there is nothing to copy. */
export function copyChosen(): string | null {
  const view = inView();
  const chosen = view && chosenBlock(view);
  if (!view || !chosen) return null;
  const order = sheetColumns(view.shot).map((level) => level.id);
  const block = { ...chosen, levelIds: chosen.levelIds.toSorted((a, b) => order.indexOf(a) - order.indexOf(b)) };
  const taken = copyBlock(view.shot, block);
  if (!taken.ok) {
    toast.message(taken.reason);
    return null;
  }
  copied = { text: blockText(view.shot, block), block: taken.value };
  toast.message(`Copied ${plural(taken.value.frames, 'frame')} of ${plural(taken.value.columns.length, 'level')}, as text too.`, {
    id: 'copied',
  });
  return copied.text;
}

/** Copies the chosen block and leaves it blank. */
export function cutChosen(): string | null {
  const text = copyChosen();
  const view = inView();
  const block = view && chosenBlock(view);
  if (text !== null && view && block) take(blankBlock(contextNow(view), block));
  return text;
}

const startOf = (view: View) => ({ levelId: startLevel(view), frame: useViewStore.getState().selection?.fromFrame ?? view.frame });

/** The level furthest left of what is chosen. */
function startLevel(view: View): string {
  const chosen = useViewStore.getState().selection?.levelIds;
  const first = chosen && sheetColumns(view.shot).find((level) => chosen.includes(level.id));
  return first?.id ?? view.level?.id ?? '';
}

/** What pasting a text where the sheet is now comes to; with `withDrawings` copied drawings become independent ones. */
export function readPasted(text: string, withDrawings = false): Outcome<Edit> {
  const view = inView();
  if (!view) return { ok: false, reason: 'There is no sheet here to paste on.' };
  const context = contextNow(view);
  const columns = sheetColumns(view.shot);
  const { levelId, frame } = startOf(view);
  if (copied && samePasted(text, copied.text)) return pasteCopied(context, columns, levelId, frame, copied.block, withDrawings);
  const written = parseBlockText(text);
  return written.ok ? pasteWritten(context, columns, levelId, frame, written.value) : written;
}

const samePasted = (a: string, b: string) => a.replace(/\r\n?/g, '\n').trimEnd() === b.trimEnd();

/** Pastes a text where the sheet is now. */
export const pasteHere = (text: string): boolean => take(readPasted(text), true);

/** Pastes what was copied here last; refuses when nothing was. */
export const readCopied = (withDrawings: boolean): Outcome<Edit> =>
  copied ? readPasted(copied.text, withDrawings) : { ok: false, reason: 'Nothing was copied yet: select a block and copy it.' };
