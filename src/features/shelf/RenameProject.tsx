'use client';
import { type FormEvent, useState } from 'react';
import type { ShelfEntry } from '@/contracts/project';
import { CANCEL } from '@/core/words';
import { reasonOf } from '@/features/sync/reasonOf';
import { changeOnShelf } from '@/features/sync/shelfApi';
import { Button } from '@/ui/Button';
import { Dialog } from '@/ui/Dialog';
import { Field } from '@/ui/Field';

/** Another title for a project. */
export function RenameProject({ entry, onDone, onClose }: { entry: ShelfEntry; onDone: () => void; onClose: () => void }) {
  const [title, setTitle] = useState(entry.title);
  const [isBusy, setBusy] = useState(false);
  const [trouble, setTrouble] = useState<string | null>(null);
  const wanted = title.trim();
  const submit = (event: FormEvent) => {
    event.preventDefault();
    setBusy(true);
    changeOnShelf(entry.id, { title: wanted }).then(onDone, (error: unknown) => {
      setBusy(false);
      setTrouble(reasonOf(error, 'The server does not answer. It is called as before.'));
    });
  };
  return (
    <Dialog
      title={`Rename ${entry.title}`}
      about="Windows that have it open follow. It can be undone there."
      open
      onOpenChange={(open) => !open && onClose()}
    >
      <form onSubmit={submit} className="mt-4 space-y-4">
        <Field label="Title" value={title} onChange={setTitle} maxLength={120} wrong={trouble ?? undefined} autoFocus required />
        <div className="flex justify-end gap-2">
          <Button onClick={onClose}>{CANCEL}</Button>
          <Button kind="go" type="submit" disabled={isBusy || wanted === '' || wanted === entry.title}>
            Rename
          </Button>
        </div>
      </form>
    </Dialog>
  );
}
