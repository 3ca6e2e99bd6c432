'use client';
import { useMemo, useState } from 'react';
import { type CheckedAgainst, checkProject, partKept } from '@/core/check/check';
import { FINDING_KINDS, type Finding, type FindingKind } from '@/core/check/finding';
import { mendAll } from '@/core/check/mendAll';
import { changedColumns } from '@/core/sheet/changes';
import type { Project } from '@/core/sheet/document';
import { plural } from '@/core/time/counts';
import { make } from '@/features/sync/session';
import { Button } from '@/ui/Button';
import { Choice } from '@/ui/Choice';
import { Dialog } from '@/ui/Dialog';

const MOST_SHOWN = 40;

/** The ways that several findings of a kind have in common, each with what it says for the first. */
export function waysOf(findings: readonly Finding[]): readonly { readonly way: string; readonly words: string; readonly count: number }[] {
  const ways = new Map<string, { words: string; count: number }>();
  for (const finding of findings)
    for (const { way, words } of finding.mends) {
      const known = ways.get(way);
      ways.set(way, { words: known?.words ?? words, count: (known?.count ?? 0) + 1 });
    }
  return [...ways].flatMap(([way, { words, count }]) => (count > 1 ? [{ way, words, count }] : []));
}

/** Mends all findings of a kind in one act, after showing what each mend will do and how the columns change. */
export function MendAllDialog({
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
  const mending = useMemo(
    () => mendAll(project, kind, way, (document) => partKept(document, checkProject(document, against)).open),
    [project, against, kind, way],
  );
  const changes = useMemo(
    () =>
      mending.ok
        ? mending.value.after.shots.flatMap((after) => {
            const before = project.shots.find((shot) => shot.id === after.id);
            return before && before !== after ? changedColumns(before, after).map((column) => ({ ...column, code: after.code })) : [];
          })
        : [],
    [mending, project],
  );
  return (
    <Dialog
      title={`Mend all: ${FINDING_KINDS[kind]}`}
      about="What will be done, one after the other; undo takes all of it back at once."
      open
      onOpenChange={(open) => !open && onClose()}
    >
      {ways.length > 1 && (
        <div className="mt-3">
          <Choice label="How" value={way} options={ways.map((entry) => ({ value: entry.way, label: entry.words }))} onChange={setWay} />
        </div>
      )}
      {mending.ok ? (
        <>
          <ol className="numbers mt-3 max-h-44 space-y-1 overflow-y-auto rounded-lg border border-line bg-sunk p-2.5 text-xs">
            {mending.value.says.slice(0, MOST_SHOWN).map((words, index) => (
              // biome-ignore lint/suspicious/noArrayIndexKey: two mends may say the same, and their order is what they are
              <li key={index}>{words}</li>
            ))}
            {mending.value.says.length > MOST_SHOWN && <li>and {mending.value.says.length - MOST_SHOWN} more</li>}
          </ol>
          <ul className="mt-3 max-h-52 space-y-2 overflow-y-auto">
            {changes.map((column) => (
              <li key={`${column.code} ${column.levelName}`} className="text-xs">
                <span className="font-semibold">
                  {column.levelName} in {column.code}
                </span>
                <span className="numbers block break-words text-soft">{column.before}</span>
                <span className="numbers block break-words">{column.after}</span>
              </li>
            ))}
          </ul>
          {mending.value.left > 0 && (
            <p className="mt-2 text-rust text-xs">
              {plural(mending.value.left, 'finding')} can’t be mended this way, as on a locked level.
            </p>
          )}
        </>
      ) : (
        <p className="mt-3 text-rust">{mending.reason}</p>
      )}
      <div className="mt-4 flex justify-end gap-2">
        <Button onClick={onClose}>Leave them</Button>
        <Button
          kind="go"
          disabled={!mending.ok}
          onClick={() => {
            if (mending.ok) make(mending.value.step);
            onClose();
          }}
        >
          Mend {mending.ok ? mending.value.says.length : ''}
        </Button>
      </div>
    </Dialog>
  );
}
