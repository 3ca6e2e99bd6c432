'use client';
import { useEffect, useState } from 'react';
import { takeFiles } from '@/features/commands/bringFiles';

const hasFiles = (event: DragEvent) => event.dataTransfer?.types.includes('Files') ?? false;

/** Takes files that are dropped anywhere on the page or pasted; whether some are being dragged over it now. */
export function useDroppedFiles(): boolean {
  const [isOver, setIsOver] = useState(false);
  useEffect(() => {
    const onDragOver = (event: DragEvent) => {
      if (!hasFiles(event)) return;
      event.preventDefault();
      setIsOver(true);
    };
    const onDragLeave = (event: DragEvent) => {
      if (event.relatedTarget === null) setIsOver(false);
    };
    const onDrop = (event: DragEvent) => {
      setIsOver(false);
      if (!hasFiles(event)) return;
      event.preventDefault();
      takeFiles(event.dataTransfer?.files ?? []);
    };
    const onPaste = (event: ClipboardEvent) => {
      const files = event.clipboardData?.files;
      if (!files || files.length === 0) return;
      event.preventDefault();
      event.stopPropagation();
      takeFiles(files);
    };
    document.addEventListener('dragover', onDragOver);
    document.addEventListener('dragleave', onDragLeave);
    document.addEventListener('drop', onDrop);
    document.addEventListener('paste', onPaste, true);
    return () => {
      document.removeEventListener('dragover', onDragOver);
      document.removeEventListener('dragleave', onDragLeave);
      document.removeEventListener('drop', onDrop);
      document.removeEventListener('paste', onPaste, true);
    };
  }, []);
  return isOver;
}
