'use client';
import { useMemo, useRef, useState } from 'react';
import type { CheckedAgainst } from '@/core/check/check';
import { FINDING_GROUPS, FINDING_KINDS, type Finding, type FindingKind } from '@/core/check/finding';
import type { Project } from '@/core/document/model';
import { workOfProject } from '@/core/sheet/work';
import { plural } from '@/core/time/counts';
import { GO_THERE, REOPEN, STOP } from '@/core/words';
import { DifferenceDialog } from '@/features/check/DifferenceDialog';
import { FindingCard, goToFinding } from '@/features/check/FindingCard';
import { FixAllDialog, waysOf } from '@/features/check/FixAllDialog';
import { GRAVE_GROUPS, GROUP_WORDS } from '@/features/check/groups';
import { useKeptFocus } from '@/features/check/useKeptFocus';
import { WhatIsChecked } from '@/features/check/WhatIsChecked';
import { stopLooking, useInspectionStore } from '@/features/path/inspecting';
import { goToStage } from '@/features/path/stages';
import { saveText } from '@/features/project/saveText';
import { make } from '@/features/sync/session';
import { Button } from '@/ui/Button';
import { laterDo } from '@/ui/later';

/** Fewer new pictures are looked at before anybody could read of it. */
const FEWEST_TOLD = 3;

type NotedFinding = Finding & { readonly note: string };

/** How far looking at the pictures is, with a way to stop it; below the list and always there, so that no card moves from under a press. */
function Looking() {
  const { progress, isStopped, failure, facts } = useInspectionStore();
  const isLooking = progress !== null && progress.all >= FEWEST_TOLD;
  return (
    <p className="flex min-h-9 items-center justify-between gap-2 border-line border-t px-3.5 py-1 text-soft text-xs">
      {failure ? (
        <span className="text-rust">The pictures can’t be checked: {failure}.</span>
      ) : isStopped ? (
        'Not every picture was checked.'
      ) : isLooking ? (
        <span className="numbers">
          checking pictures: {progress.done} of {progress.all}
        </span>
      ) : (
        <span className="numbers">
          {facts.measures.size === 0 ? 'no pictures checked yet' : `${plural(facts.measures.size, 'picture')} checked`}
        </span>
      )}
      {!failure && (isStopped || isLooking) && (
        <Button tight onClick={() => stopLooking(!isStopped)}>
          {isStopped ? 'Go on' : STOP}
        </Button>
      )}
    </p>
  );
}

function KeptList({ kept, codes }: { kept: readonly NotedFinding[]; codes: ReadonlyMap<string, string> }) {
  if (kept.length === 0) return null;
  return (
    <details className="rounded-xl border border-line">
      <summary className="cursor-pointer px-3 py-2 font-semibold text-soft text-xs">
        {plural(kept.length, 'finding')} kept as intended
      </summary>
      <ul className="space-y-2 p-3 pt-1">
        {kept.map((finding) => (
          <li key={finding.id} className="text-xs">
            <p>
              {finding.place && <span className="numbers mr-1.5 font-semibold text-2xs text-soft">{codes.get(finding.place.shotId)}</span>}
              {finding.sentence}
            </p>
            {finding.note !== '' && <p className="text-soft italic">“{finding.note}”</p>}
            <div className="mt-1 flex gap-1.5">
              {finding.place && (
                <Button tight onClick={() => goToFinding(finding)}>
                  {GO_THERE}
                </Button>
              )}
              <Button tight onClick={() => make({ type: 'keepFinding', finding: finding.id, note: null })}>
                {REOPEN}
              </Button>
            </div>
          </li>
        ))}
      </ul>
    </details>
  );
}

const withList = laterDo(() => import('@/features/check/findingsList'));

function headingOf(findings: number, isNothingPlanned: boolean): string {
  if (findings > 0) return plural(findings, 'finding');
  return isNothingPlanned ? 'No drawings' : 'No findings';
}

/** Findings as sentences, grouped by what they need; each can be gone to, fixed, or kept as intended. */
export function FindingsPanel({
  project,
  against,
  open,
  kept,
  isChecked,
}: {
  project: Project;
  against: CheckedAgainst;
  open: readonly Finding[];
  kept: readonly NotedFinding[];
  /** Whether it was checked already: before that nothing is known to agree. */
  isChecked: boolean;
}) {
  const [mendingKind, setMendingKind] = useState<FindingKind | null>(null);
  const [differing, setDiffering] = useState<Finding | null>(null);
  const list = useRef<HTMLDivElement>(null);
  const onPressed = useKeptFocus(list, open);
  const isNothingPlanned = useMemo(() => workOfProject(project).drawings === 0, [project]);
  const codes = useMemo(() => new Map(project.shots.map((shot) => [shot.id, shot.code])), [project.shots]);
  return (
    <section aria-label="Findings" className="panel flex flex-col overflow-hidden">
      <div className="flex flex-wrap items-center gap-x-2 gap-y-1 border-line border-b px-3.5 py-2">
        <h2 className="flex-1 font-bold">
          {isChecked ? headingOf(open.length, isNothingPlanned) : 'Checking …'}{' '}
          <span className="block font-normal text-soft text-xs">in {plural(project.shots.length, 'shot')}</span>
        </h2>
        <WhatIsChecked />
        <Button
          tight
          disabled={open.length + kept.length === 0}
          title="Save the list of findings as CSV"
          onClick={() =>
            withList(({ findingsList }) =>
              saveText(findingsList(project, open, kept), `${project.title} findings.csv`, 'text/csv;charset=utf-8'),
            )
          }
        >
          Save list
        </Button>
      </div>
      {/* biome-ignore lint/a11y/useKeyWithClickEvents: it only takes note of presses on the buttons within, by key or pointer */}
      {/* biome-ignore lint/a11y/noStaticElementInteractions: as above */}
      <div ref={list} tabIndex={-1} onClick={onPressed} className="min-h-0 flex-1 space-y-4 overflow-y-auto p-3.5">
        {isChecked && open.length === 0 && isNothingPlanned && (
          <div className="space-y-2.5">
            <p className="text-soft">
              There is nothing to check yet: no drawing is planned in this film. What is wrong with lengths, repeats, cuts, pictures and
              sounds will stand here as sentences, each with its fixes.
            </p>
            <Button kind="go" onClick={() => goToStage(project.id, 'plan')}>
              Plan drawings
            </Button>
          </div>
        )}
        {isChecked && open.length === 0 && !isNothingPlanned && (
          <p className="text-soft">
            Counts, pictures and exposures agree everywhere the checks reach: lengths, repeats and near repeats, seams and cuts, gaps,
            strays, frames on which nothing moves, charts, numbers, sounds, flashes, and drawings never shown or not drawn.
          </p>
        )}
        {FINDING_GROUPS.map((group) => {
          const inGroup = open.filter((finding) => finding.group === group);
          const kinds = [...new Set(inGroup.map((finding) => finding.kind))];
          return (
            inGroup.length > 0 && (
              <section key={group} aria-label={GROUP_WORDS[group]}>
                <h3 className={`mb-1.5 font-semibold text-xs ${GRAVE_GROUPS.has(group) ? 'text-rust' : 'text-soft'}`}>
                  {GROUP_WORDS[group]}
                </h3>
                {kinds.map((kind) => {
                  const ofKind = inGroup.filter((finding) => finding.kind === kind);
                  return (
                    <div key={kind} className="mb-2">
                      {waysOf(ofKind).length > 0 && (
                        <Button className="mb-1.5 w-full" onClick={() => setMendingKind(kind)}>
                          Fix all {ofKind.length} {FINDING_KINDS[kind]} …
                        </Button>
                      )}
                      <ul className="space-y-2">
                        {ofKind.map((finding) => (
                          <FindingCard
                            key={finding.id}
                            finding={finding}
                            shotCode={finding.place ? codes.get(finding.place.shotId) : undefined}
                            onDifference={setDiffering}
                          />
                        ))}
                      </ul>
                    </div>
                  );
                })}
              </section>
            )
          );
        })}
        <KeptList kept={kept} codes={codes} />
      </div>
      <Looking />
      {mendingKind && (
        <FixAllDialog
          project={project}
          against={against}
          kind={mendingKind}
          findings={open.filter((finding) => finding.kind === mendingKind)}
          onClose={() => setMendingKind(null)}
        />
      )}
      {differing && <DifferenceDialog finding={differing} size={project.size} onClose={() => setDiffering(null)} />}
    </section>
  );
}
