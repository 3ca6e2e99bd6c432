'use client';
import { useState } from 'react';
import type { Finding } from '@/core/check/finding';
import { LONGEST_NOTE } from '@/core/document/checks';
import { GO_THERE, KEEP_AS_INTENDED } from '@/core/words';
import { goToShot } from '@/features/project/navigation';
import { useViewStore } from '@/features/project/viewStore';
import { make } from '@/features/sync/session';
import { Button } from '@/ui/Button';

/** Goes to where a finding is, and chooses its frames on its level; what is only seen in movement becomes the loop, to be played. */
export function goToFinding({ kind, place }: Finding): void {
  if (!place) return;
  goToShot(place.shotId, place.fromFrame, place.levelId ?? undefined);
  if (kind === 'flashes') useViewStore.setState({ loop: { fromFrame: place.fromFrame, toFrame: place.toFrame } });
  else if (place.levelId !== null && place.toFrame > place.fromFrame)
    useViewStore.setState({ selection: { fromFrame: place.fromFrame, toFrame: place.toFrame, levelIds: [place.levelId] } });
}

function KeepForm({ finding, onDone }: { finding: Finding; onDone: () => void }) {
  const [note, setNote] = useState('');
  return (
    <form
      className="mt-2 flex gap-1.5"
      onSubmit={(event) => {
        event.preventDefault();
        make({ type: 'keepFinding', finding: finding.id, note: note.trim() });
        onDone();
      }}
    >
      <input
        // biome-ignore lint/a11y/noAutofocus: it opens where the pressed button stood
        autoFocus
        aria-label="Why it stays as it is"
        placeholder="Why it stays as it is"
        value={note}
        maxLength={LONGEST_NOTE}
        onChange={(event) => setNote(event.target.value)}
        onKeyDown={(event) => {
          if (event.key === 'Escape') onDone();
        }}
        className="min-h-7 min-w-0 flex-1 rounded-lg border border-line bg-paper px-2"
      />
      <Button type="submit" kind="dark">
        Keep
      </Button>
    </form>
  );
}

/** One finding: where it is, what can be done, and a way to keep it as it is. */
export function FindingCard({
  finding,
  shotCode,
  onDifference,
}: {
  finding: Finding;
  shotCode: string | undefined;
  onDifference: (finding: Finding) => void;
}) {
  const [keeping, setKeeping] = useState(false);
  return (
    <li data-finding={finding.kind} className="rounded-xl border border-line bg-sunk p-3">
      <p>
        {shotCode && <span className="numbers mr-1.5 font-semibold text-2xs text-soft">{shotCode}</span>}
        {finding.sentence}
      </p>
      <div className="mt-2 flex flex-wrap gap-1.5">
        {finding.place && <Button onClick={() => goToFinding(finding)}>{GO_THERE}</Button>}
        {finding.pair && <Button onClick={() => onDifference(finding)}>See what differs</Button>}
        {finding.fixes.map((fix) => (
          <Button key={fix.words} onClick={() => make(fix.step)} title="Fixes it; you can undo it">
            {fix.words}
          </Button>
        ))}
        {!keeping && (
          <Button kind="quiet" className="text-soft" onClick={() => setKeeping(true)}>
            {KEEP_AS_INTENDED}
          </Button>
        )}
      </div>
      {keeping && <KeepForm finding={finding} onDone={() => setKeeping(false)} />}
    </li>
  );
}
