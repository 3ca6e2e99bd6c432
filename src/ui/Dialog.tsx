'use client';
import { X } from 'lucide-react';
import { Dialog as RadixDialog } from 'radix-ui';
import type { ReactNode } from 'react';

/** The cross at a window's upper right, within a window of Radix. */
export function DialogCross() {
  return (
    <RadixDialog.Close
      aria-label="Close"
      title="Close (Esc)"
      className="absolute top-3.5 right-3.5 flex size-7 items-center justify-center rounded-lg text-soft hover:bg-sunk hover:text-ink"
    >
      <X size={16} aria-hidden="true" />
    </RadixDialog.Close>
  );
}

/** A window over the page that asks for something; its cross, Escape and a press outside close it. */
export function Dialog({
  title,
  about,
  open,
  onOpenChange,
  children,
}: {
  title: string;
  about: string;
  open: boolean;
  onOpenChange: (open: boolean) => void;
  children: ReactNode;
}) {
  return (
    <RadixDialog.Root open={open} onOpenChange={onOpenChange}>
      <RadixDialog.Portal>
        <RadixDialog.Overlay className="fixed inset-0 z-40 bg-black/35" />
        <RadixDialog.Content className="panel fixed top-1/2 left-1/2 z-50 max-h-[90vh] w-[min(560px,94vw)] -translate-x-1/2 -translate-y-1/2 overflow-y-auto p-5 shadow-xl">
          <DialogCross />
          <RadixDialog.Title className="pr-9 font-bold font-head text-xl">{title}</RadixDialog.Title>
          <RadixDialog.Description className="mt-0.5 text-soft">{about}</RadixDialog.Description>
          {children}
        </RadixDialog.Content>
      </RadixDialog.Portal>
    </RadixDialog.Root>
  );
}
