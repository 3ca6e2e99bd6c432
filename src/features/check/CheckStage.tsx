'use client';
import { useMemo } from 'react';
import type { Finding, FindingGroup } from '@/core/check/finding';
import { frameRangeWords } from '@/core/handover/frameWords';
import { plural } from '@/core/time/counts';
import { Player } from '@/features/clock/Player';
import { usePlayStore } from '@/features/clock/playStore';
import { useFindings } from '@/features/path/useFindings';
import { useProject, useShot } from '@/features/project/hooks';
import { goToShot } from '@/features/project/navigation';
import { make } from '@/features/project/session';
import { useViewStore } from '@/features/project/viewStore';
import { Sheet } from '@/features/sheet/Sheet';
import { Button } from '@/ui/Button';
import { Fitted } from '@/ui/Fitted';

const GROUPS: Record<FindingGroup, string> = {
  counts: 'Counts that disagree',
  repeats: 'Repeats nobody asked for',
  slips: 'Slips in the timing',
  undrawn: 'Planned, not drawn yet',
};

function FindingCard({ finding, shotCode }: { finding: Finding; shotCode: string | undefined }) {
  const { place } = finding;
  return (
    <li className="rounded-xl border border-line bg-sunk p-3">
      <p>
        {shotCode && <span className="numbers mr-1.5 font-semibold text-2xs text-soft">{shotCode}</span>}
        {finding.sentence}
      </p>
      <div className="mt-2 flex flex-wrap gap-1.5">
        {place && <Button onClick={() => goToShot(place.shotId, place.fromFrame, place.levelId ?? undefined)}>Go there</Button>}
        {finding.mends.map((mend) => (
          <Button key={mend.words} onClick={() => make(mend.step)} title="Mends it; undo takes the mend back">
            {mend.words}
          </Button>
        ))}
      </div>
    </li>
  );
}

/** What playing had to say: whether every frame was on the screen in its own time. */
function PlayReport({ firstNumber }: { firstNumber: number }) {
  const { ticks, late, lateFrames, preparing } = usePlayStore();
  const playing = useViewStore((state) => state.playing);
  if (preparing) return <p className="text-soft text-xs">Getting pictures ready …</p>;
  if (ticks === 0)
    return <p className="text-soft text-xs">Space plays at the true rate. Select frames on the sheet and press L to loop over them.</p>;
  return (
    <p className={`text-xs ${late > 0 ? 'text-rust' : 'text-moss'}`}>
      {late === 0
        ? `${playing ? 'So far ' : ''}${plural(ticks, 'frame')} played, every one in its own time.`
        : `${late} of ${plural(ticks, 'frame')} were late on this machine, first ${frameRangeWords(lateFrames.slice(0, 6).map((frame) => frame + firstNumber))}.`}
    </p>
  );
}

/** Seeing it move, and everything that doesn't agree. */
export function CheckStage() {
  const project = useProject();
  const shot = useShot();
  const { findings } = useFindings(project);
  const codes = useMemo(() => new Map(project.shots.map((entry) => [entry.id, entry.code])), [project.shots]);
  const marks = useMemo(
    () =>
      new Map(
        findings
          .filter((finding) => finding.place?.shotId === shot?.id)
          .flatMap((finding) => (finding.place ? [[finding.place.fromFrame, finding.sentence] as const] : [])),
      ),
    [findings, shot?.id],
  );
  return (
    <div className="grid h-full grid-cols-[316px_minmax(0,1fr)_330px] gap-2.5">
      {shot ? <Sheet shot={shot} marks={marks} /> : <section className="panel" />}
      <section aria-label="Player" className="panel flex flex-col gap-2 bg-desk! p-3.5">
        <Fitted width={project.size.width} height={project.size.height} className="flex-1">
          <Player className="h-full w-full" />
        </Fitted>
        <PlayReport firstNumber={project.startFrame} />
      </section>
      <section aria-label="Findings" className="panel flex flex-col overflow-hidden">
        <h2 className="border-line border-b px-3.5 py-2.5 font-bold">
          {findings.length === 0 ? 'No findings' : plural(findings.length, 'finding')}{' '}
          <span className="font-normal text-soft">in {plural(project.shots.length, 'shot')}</span>
        </h2>
        <div className="min-h-0 flex-1 space-y-4 overflow-y-auto p-3.5">
          {findings.length === 0 && (
            <p className="text-soft">
              Counts, pictures and exposures agree everywhere the checks look: lengths, repeats in a row, one-frame gaps, stray ones,
              drawings never shown or not drawn.
            </p>
          )}
          {(Object.keys(GROUPS) as FindingGroup[]).map((group) => {
            const inGroup = findings.filter((finding) => finding.group === group);
            return (
              inGroup.length > 0 && (
                <div key={group}>
                  <h3 className={`mb-1.5 font-semibold text-xs ${group === 'counts' || group === 'repeats' ? 'text-rust' : 'text-soft'}`}>
                    {GROUPS[group]}
                  </h3>
                  <ul className="space-y-2">
                    {inGroup.map((finding) => (
                      <FindingCard
                        key={finding.id}
                        finding={finding}
                        shotCode={finding.place ? codes.get(finding.place.shotId) : undefined}
                      />
                    ))}
                  </ul>
                </div>
              )
            );
          })}
        </div>
      </section>
    </div>
  );
}
