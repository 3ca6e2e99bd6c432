'use client';
import { useEffect, useState } from 'react';
import { droppedFolders, filesOfEntries } from '@/ui/droppedFiles';

const hasFiles = (event: DragEvent) => event.dataTransfer?.types.includes('Files') ?? false;

/** Gives files that are dropped anywhere on the page or pasted; whether some are being dragged over it now. */
export function useDroppedFiles(onFiles: (files: readonly File[]) => void): boolean {
  const [isOver, setIsOver] = useState(false);
  useEffect(() => {
    const own = new AbortController();
    const { signal } = own;
    document.addEventListener(
      'dragover',
      (event) => {
        if (!hasFiles(event)) return;
        event.preventDefault();
        setIsOver(true);
      },
      { signal },
    );
    document.addEventListener('dragleave', (event) => event.relatedTarget === null && setIsOver(false), { signal });
    document.addEventListener(
      'drop',
      (event) => {
        setIsOver(false);
        if (!hasFiles(event)) return;
        event.preventDefault();
        const { dataTransfer } = event;
        if (!dataTransfer) return;
        const entries = droppedFolders(dataTransfer);
        if (entries.length > 0) void filesOfEntries(entries).then(onFiles, () => onFiles([]));
        else onFiles([...dataTransfer.files]);
      },
      { signal },
    );
    document.addEventListener(
      'paste',
      (event) => {
        const files = event.clipboardData?.files;
        if (!files || files.length === 0) return;
        event.preventDefault();
        event.stopPropagation();
        onFiles([...files]);
      },
      { signal, capture: true },
    );
    return () => own.abort();
  }, [onFiles]);
  return isOver;
}
