'use client';
import { useEffect, useState } from 'react';
import type { ProjectHoldings } from '@/contracts/keep';
import type { ShelfEntry } from '@/contracts/project';
import { bytesText } from '@/core/bytes';
import { plural } from '@/core/time/counts';
import { CANCEL } from '@/core/words';
import { reasonOf } from '@/features/sync/reasonOf';
import { deleteForGood, fetchHoldings } from '@/features/sync/shelfApi';
import { Button } from '@/ui/Button';
import { Dialog } from '@/ui/Dialog';

/** What goes, in lines. */
function whatGoes({ shots, drawings, recordings, receipts, changes, moments }: ProjectHoldings): readonly string[] {
  return [
    `${plural(shots, 'shot')} with ${plural(drawings, 'drawing')}`,
    ...(recordings > 0
      ? [`${plural(recordings, 'file')} that ${recordings === 1 ? 'was' : 'were'} brought in: recordings, clips, pictures`]
      : []),
    ...(receipts > 0 ? [plural(receipts, 'receipt')] : []),
    `its whole past: ${plural(changes, 'change')}${moments > 0 ? `, ${plural(moments, 'named moment')}` : ''}`,
  ];
}

/** Deletes a project for good, after saying what goes. */
export function DeleteProject({ entry, onDone, onClose }: { entry: ShelfEntry; onDone: () => void; onClose: () => void }) {
  const [found, setFound] = useState<ProjectHoldings | null>(null);
  const [isBusy, setBusy] = useState(false);
  const [trouble, setTrouble] = useState<string | null>(null);
  useEffect(() => {
    let isShown = true;
    fetchHoldings(entry.id).then(
      (holdings) => isShown && setFound(holdings),
      (error: unknown) => isShown && setTrouble(reasonOf(error, 'The server does not answer.')),
    );
    return () => {
      isShown = false;
    };
  }, [entry.id]);
  const remove = ({ title }: ProjectHoldings) => {
    setBusy(true);
    deleteForGood(entry.id, title).then(onDone, (error: unknown) => {
      setBusy(false);
      setTrouble(reasonOf(error, 'The server does not answer: look at the shelf again to see whether it is gone.'));
    });
  };
  return (
    <Dialog
      title={`Delete ${entry.title} for good`}
      about="It can’t be brought back, but from a package or a backup."
      open
      onOpenChange={(open) => !open && onClose()}
    >
      {!found && !trouble && <p className="mt-4">Looking at what it holds …</p>}
      {found && (
        <div className="mt-4 space-y-2">
          <p>With it go</p>
          <ul className="list-disc pl-5">
            {whatGoes(found).map((line) => (
              <li key={line}>{line}</li>
            ))}
          </ul>
          <p>
            {found.ownBytes === found.bytes
              ? `${bytesText(found.bytes)} of pictures and files can be freed then.`
              : `${bytesText(found.ownBytes)} of pictures and files can be freed then; ${bytesText(found.bytes - found.ownBytes)} stay, since other projects show them.`}
          </p>
        </div>
      )}
      {trouble && (
        <p role="alert" className="mt-3 text-rust">
          {trouble}
        </p>
      )}
      <div className="mt-5 flex justify-end gap-2">
        <Button onClick={onClose}>{CANCEL}</Button>
        <Button kind="warn" disabled={!found || isBusy} onClick={() => found && remove(found)}>
          Delete for good
        </Button>
      </div>
    </Dialog>
  );
}
