'use client';
import { useMemo, useState } from 'react';
import { measuredExposures } from '@/core/analysis/motion';
import type { Finding } from '@/core/check/finding';
import { FindingsPanel } from '@/features/check/FindingsPanel';
import { type Graph, GraphsPanel } from '@/features/check/graphs/GraphsPanel';
import { WayOverPicture } from '@/features/check/graphs/WayOverPicture';
import { LargePlayer } from '@/features/clock/LargePlayer';
import { useInspectionStore } from '@/features/path/inspecting';
import { useFindings } from '@/features/path/useFindings';
import { useLevel, useProject, useShot } from '@/features/project/hooks';
import { Sheet } from '@/features/sheet/Sheet';
import { Boundary } from '@/ui/Boundary';
import { Stage } from '@/ui/Stage';

/** Findings of a shot by the frame they begin on, for the sheet's rows. */
function marksOf(findings: readonly Finding[], shotId: string | undefined): ReadonlyMap<number, string> {
  const marks = new Map<number, string>();
  for (const { place, sentence } of findings) {
    if (!place || place.shotId !== shotId) continue;
    const before = marks.get(place.fromFrame);
    marks.set(place.fromFrame, before ? `${before} ${sentence}` : sentence);
  }
  return marks;
}

/** Seeing it move, and everything that doesn't agree. */
export function CheckStage() {
  const { size } = useProject();
  const shot = useShot();
  const level = useLevel();
  const measures = useInspectionStore((state) => state.facts.measures);
  const { project, against, open, kept, isChecked } = useFindings(useProject());
  const [graph, setGraph] = useState<Graph>('travel');
  const marks = useMemo(() => marksOf(open, shot?.id), [open, shot?.id]);
  const exposures = useMemo(() => (level ? measuredExposures(level, measures) : []), [level, measures]);
  return (
    <Stage
      name="check"
      rightPx={330}
      left={
        shot ? (
          <Boundary what="The sheet" className="h-full">
            <Sheet shot={shot} marks={marks} />
          </Boundary>
        ) : (
          <section className="panel" />
        )
      }
      middle={
        <div className="grid min-h-0 min-w-0 grid-rows-[minmax(0,1fr)_auto] gap-2.5">
          <Boundary what="The player">
            <LargePlayer
              over={graph === 'travel' && exposures.length > 1 ? <WayOverPicture exposures={exposures} size={size} /> : undefined}
            />
          </Boundary>
          {shot && (
            <Boundary what="The graphs">
              <GraphsPanel graph={graph} onGraph={setGraph} shot={shot} level={level} exposures={exposures} />
            </Boundary>
          )}
        </div>
      }
      right={
        <Boundary what="The findings">
          <FindingsPanel project={project} against={against} open={open} kept={kept} isChecked={isChecked} />
        </Boundary>
      }
    />
  );
}
