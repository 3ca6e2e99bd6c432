'use client';
import { useRef, useState } from 'react';
import type { Project } from '@/core/document/model';
import { differencesFromReel } from '@/core/editorial/againstReel';
import { takeDifferences } from '@/core/editorial/takeDifferences';
import type { EditorialTimeline } from '@/core/format/editorial';
import { readEdl } from '@/core/format/edl/readEdl';
import { readOtio } from '@/core/format/otio/readOtio';
import { done, type Outcome } from '@/core/outcome';
import { countText, plural } from '@/core/time/counts';
import { CANCEL } from '@/core/words';
import { newId, take } from '@/features/project/editContext';
import { useProject } from '@/features/project/hooks';
import { Button } from '@/ui/Button';
import { Checklist } from '@/ui/Checklist';
import { Dialog } from '@/ui/Dialog';

type Read = { readonly fileName: string; readonly timeline: EditorialTimeline; readonly told: readonly string[] };

const MOST_BYTES = 64 * 1024 * 1024;

/** A file that comes back, by what it is: OpenTimelineIO is JSON, a list is not. */
function readBack(text: string, fileName: string, { rate }: Project): Outcome<Read> {
  const read = text.trimStart().startsWith('{') ? readOtio(text) : readEdl(text, rate);
  return read.ok ? done({ fileName, ...read.value }) : read;
}

/** What is different in a file that came back, taken one by one or all at once. */
function Found({ read, onClose }: { read: Read; onClose: () => void }) {
  const project = useProject();
  const differences = differencesFromReel(project, read.timeline);
  const takeable = differences.ok ? differences.value.filter(({ canTake }) => canTake).map(({ id }) => id) : [];
  const [left, setLeft] = useState<ReadonlySet<string>>(new Set());
  const ids = takeable.filter((id) => !left.has(id));
  const edit = ids.length > 0 ? takeDifferences(project, read.timeline, ids, newId) : null;
  return (
    <>
      <div className="mt-3 space-y-1.5 text-xs">
        {!differences.ok && <p className="text-rust">{differences.reason} Nothing was changed.</p>}
        {differences.ok && differences.value.length === 0 && (
          <p className="text-moss">It is the reel: every item and sound is on its frames.</p>
        )}
        {differences.ok && differences.value.length > 0 && <p>{plural(differences.value.length, 'difference')} from the reel:</p>}
        {read.told.map((sentence) => (
          <p key={sentence} className="text-soft">
            {sentence}
          </p>
        ))}
      </div>
      {differences.ok && differences.value.length > 0 && (
        <div className="mt-2">
          <Checklist label="What differs" items={differences.value} left={left} onLeft={setLeft} />
        </div>
      )}
      {edit && <p className={`mt-2 text-xs ${edit.ok ? '' : 'text-rust'}`}>{edit.ok ? edit.value.says : edit.reason}</p>}
      <div className="mt-4 flex justify-end gap-2">
        <Button onClick={onClose}>{takeable.length > 0 ? CANCEL : 'Close'}</Button>
        {takeable.length > 0 && (
          <Button
            kind="go"
            disabled={!edit?.ok}
            onClick={() => {
              if (edit?.ok && take(edit, true)) onClose();
            }}
          >
            {ids.length === takeable.length ? 'Take all of them' : `Take ${countText(ids.length)} of ${countText(takeable.length)}`}
          </Button>
        )}
      </div>
    </>
  );
}

/** Holds a timeline or a list that came back against the reel. */
export function TimingBack() {
  const project = useProject();
  const input = useRef<HTMLInputElement>(null);
  const [read, setRead] = useState<Outcome<Read> | null>(null);
  const open = async (file: File) => {
    if (file.size > MOST_BYTES) return setRead({ ok: false, reason: `${file.name} has more than 64 MiB, which is the most that is read.` });
    const found = readBack(await file.text(), file.name, project);
    setRead(found.ok ? found : { ok: false, reason: `${file.name}: ${found.reason}` });
  };
  return (
    <>
      <Button onClick={() => input.current?.click()}>Hold a file against the reel</Button>
      <input
        ref={input}
        type="file"
        accept=".otio,.edl,.json,.txt"
        aria-label="A timeline or an edit list"
        className="sr-only"
        tabIndex={-1}
        onChange={(event) => {
          const [file] = event.target.files ?? [];
          event.target.value = '';
          if (file) void open(file);
        }}
      />
      <Dialog
        title={read?.ok ? read.value.fileName : 'A file that comes back'}
        about="A timeline or an edit list, held against the reel. What you take is one step, and can be undone."
        open={read !== null}
        onOpenChange={(isOpen) => !isOpen && setRead(null)}
      >
        {read?.ok && <Found read={read.value} onClose={() => setRead(null)} />}
        {read && !read.ok && (
          <>
            <p className="mt-3 text-rust text-xs">{read.reason} Nothing was changed.</p>
            <div className="mt-4 flex justify-end">
              <Button onClick={() => setRead(null)}>Close</Button>
            </div>
          </>
        )}
      </Dialog>
    </>
  );
}
