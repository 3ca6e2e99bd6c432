'use client';
import { useEffect } from 'react';
import { copyChosen, cutChosen, pasteHere } from '@/features/commands/copied';
import { useViewStore } from '@/features/project/viewStore';

/** Whether the browser's own copy and paste are meant: in fields, in windows, for text that is marked, and where no sheet is in sight. */
function isForTheBrowser(event: ClipboardEvent): boolean {
  if (!useViewStore.getState().sheetInSight) return true;
  const target = event.target instanceof Element ? event.target : null;
  if (target?.closest('input, textarea, select, [role="dialog"]')) return true;
  return event.type !== 'paste' && (document.getSelection()?.toString() ?? '') !== '';
}

/** Copy, cut and paste by the browser's own keys and menu work on the sheet. */
export function useClipboard(): void {
  useEffect(() => {
    const give = (take: () => string | null) => (event: ClipboardEvent) => {
      if (isForTheBrowser(event)) return;
      const text = take();
      if (text === null) return;
      event.clipboardData?.setData('text/plain', text);
      event.preventDefault();
    };
    const onCopy = give(copyChosen);
    const onCut = give(cutChosen);
    const onPaste = (event: ClipboardEvent) => {
      const text = event.clipboardData?.getData('text/plain') ?? '';
      if (isForTheBrowser(event) || text === '') return;
      event.preventDefault();
      pasteHere(text);
    };
    document.addEventListener('copy', onCopy);
    document.addEventListener('cut', onCut);
    document.addEventListener('paste', onPaste);
    return () => {
      document.removeEventListener('copy', onCopy);
      document.removeEventListener('cut', onCut);
      document.removeEventListener('paste', onPaste);
    };
  }, []);
}
