'use client';
import { useEffect, useMemo, useState } from 'react';
import type { CheckedAgainst } from '@/core/check/check';
import { FINDING_KINDS, type Finding, type FindingKind } from '@/core/check/finding';
import type { Project } from '@/core/document/model';
import { type Outcome, refused } from '@/core/outcome';
import { plural } from '@/core/time/counts';
import { CANCEL } from '@/core/words';
import { make } from '@/features/sync/session';
import { Button } from '@/ui/Button';
import { Choice } from '@/ui/Choice';
import { Dialog } from '@/ui/Dialog';
import { type FixAnswer, fixFindings } from '@/workers/client';

const MOST_SHOWN = 40;

/** The ways that several findings of a kind have in common, each with what it says for the first. */
export function waysOf(findings: readonly Finding[]): readonly { readonly way: string; readonly words: string; readonly count: number }[] {
  const ways = new Map<string, { words: string; count: number }>();
  for (const finding of findings)
    for (const { way, words } of finding.fixes) {
      const known = ways.get(way);
      ways.set(way, { words: known?.words ?? words, count: (known?.count ?? 0) + 1 });
    }
  return [...ways].flatMap(([way, { words, count }]) => (count > 1 ? [{ way, words, count }] : []));
}

/** What fixing comes to; null while it is worked out. Closing the window lets go of it. */
function useFixPreview(project: Project, against: CheckedAgainst, kind: FindingKind, way: string): Outcome<FixAnswer> | null {
  const [known, setKnown] = useState<{ project: Project; way: string; fixing: Outcome<FixAnswer> } | null>(null);
  useEffect(() => {
    let current = true;
    fixFindings({ project, against, kind, way }).then(
      (fixing) => current && setKnown({ project, way, fixing }),
      (error) =>
        current &&
        setKnown({
          project,
          way,
          fixing: refused(`It could not be worked out: ${error instanceof Error ? error.message : 'unknown reason'}.`),
        }),
    );
    return () => {
      current = false;
    };
  }, [project, against, kind, way]);
  return known?.project === project && known.way === way ? known.fixing : null;
}

/** Fixes all findings of a kind in one edit, after showing what each fix will do and how the columns change. */
export function FixAllDialog({
  project,
  against,
  kind,
  findings,
  onClose,
}: {
  project: Project;
  against: CheckedAgainst;
  kind: FindingKind;
  findings: readonly Finding[];
  onClose: () => void;
}) {
  const ways = useMemo(() => waysOf(findings), [findings]);
  const [way, setWay] = useState(ways[0]?.way ?? '');
  const fixing = useFixPreview(project, against, kind, way);
  const answer = fixing?.ok ? fixing.value : null;
  return (
    <Dialog
      title={`Fix all: ${FINDING_KINDS[kind]}`}
      about="What will be done, one after the other; one undo reverts all of it."
      open
      onOpenChange={(open) => !open && onClose()}
    >
      {ways.length > 1 && (
        <div className="mt-3">
          <Choice label="How" value={way} options={ways.map((entry) => ({ value: entry.way, label: entry.words }))} onChange={setWay} />
        </div>
      )}
      {answer ? (
        <>
          <ol className="numbers mt-3 max-h-44 space-y-1 overflow-y-auto rounded-lg border border-line bg-sunk p-2.5 text-xs">
            {answer.says.slice(0, MOST_SHOWN).map((words, index) => (
              // biome-ignore lint/suspicious/noArrayIndexKey: two fixes may say the same, and their order is what they are
              <li key={index}>{words}</li>
            ))}
            {answer.says.length > MOST_SHOWN && <li>and {answer.says.length - MOST_SHOWN} more</li>}
          </ol>
          <ul className="-mx-1 mt-2 max-h-54 space-y-2 overflow-y-auto p-1">
            {answer.changes.map((column) => (
              <li key={`${column.code} ${column.levelName}`} className="text-xs">
                <span className="font-semibold">
                  {column.levelName} in {column.code}
                </span>
                <span className="numbers block break-words text-soft">{column.before}</span>
                <span className="numbers block break-words">{column.after}</span>
              </li>
            ))}
          </ul>
          {answer.left > 0 && (
            <p className="mt-2 text-rust text-xs">{plural(answer.left, 'finding')} can’t be fixed this way, as on a locked level.</p>
          )}
        </>
      ) : (
        <p className={`mt-3 ${fixing ? 'text-rust' : 'text-soft'}`} role="status">
          {fixing && !fixing.ok ? fixing.reason : 'Working out what each fix would do …'}
        </p>
      )}
      <div className="mt-4 flex justify-end gap-2">
        <Button onClick={onClose}>{CANCEL}</Button>
        <Button
          kind="go"
          disabled={!answer}
          onClick={() => {
            if (answer) make(answer.step);
            onClose();
          }}
        >
          Fix {answer ? answer.says.length : ''}
        </Button>
      </div>
    </Dialog>
  );
}
