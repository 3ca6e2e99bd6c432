'use client';
import { useMemo } from 'react';
import { lengthsOf, type MeasuredExposure, sizesAgainst, travelOf } from '@/core/analysis/motion';
import { type Level, levelById, type Shot } from '@/core/document/model';
import { useInspectionStore } from '@/features/path/inspecting';
import { useProject } from '@/features/project/hooks';
import { useViewStore } from '@/features/project/viewStore';
import { Choice } from '@/ui/Choice';
import { Later, part } from '@/ui/later';

export const GRAPHS = ['travel', 'size', 'lengths', 'drawings'] as const;
export type Graph = (typeof GRAPHS)[number];

const GRAPH_WORDS: Record<Graph, string> = {
  travel: 'Travel',
  size: 'Size',
  lengths: 'Lengths',
  drawings: 'Drawings a second',
};

const lengthGraph = part(async () => (await import('@/features/check/graphs/LengthGraph')).LengthGraph);

const sizeGraph = part(async () => (await import('@/features/check/graphs/SizeGraph')).SizeGraph);
const travelGraph = part(async () => (await import('@/features/check/graphs/TravelGraph')).TravelGraph);
const drawingsGraph = part(async () => (await import('@/features/clock/DrawingsGraph')).DrawingsGraph);
type Props = {
  readonly graph: Graph;
  readonly onGraph: (graph: Graph) => void;
  readonly shot: Shot;
  readonly level: Level | undefined;
  readonly exposures: readonly MeasuredExposure[];
};

function Nothing({ level }: { level: Level | undefined }) {
  const isLooking = useInspectionStore((state) => state.progress !== null);
  return (
    <p className="grid h-full place-items-center px-6 text-center text-soft">
      {isLooking
        ? 'The pictures are being checked …'
        : level
          ? `${level.name} has fewer than two drawn pictures to measure.`
          : 'Choose a level on the sheet.'}
    </p>
  );
}

/** The movement of the chosen level as graphs. */
export function GraphsPanel({ graph, onGraph, shot, level, exposures }: Props) {
  const firstNumber = useProject().firstFrameNumber;
  const pinned = useViewStore((state) => state.onion.pinned);
  const travel = useMemo(() => travelOf(exposures), [exposures]);
  const reference = useMemo(() => {
    const pin = pinned.find(({ levelId, drawingId }) => levelId === level?.id && exposures.some(({ drawing }) => drawing.id === drawingId));
    return exposures.find(({ drawing }) => drawing.id === pin?.drawingId) ?? exposures[0];
  }, [pinned, exposures, level]);
  const sizes = useMemo(() => (reference ? sizesAgainst(exposures, reference.measure) : []), [exposures, reference]);
  const current = level && levelById(shot, level.id);
  const lengths = useMemo(() => (current ? lengthsOf(current, shot.frames) : []), [current, shot.frames]);
  const about: Record<Graph, string> = {
    travel: `how far the centre of ${level?.name ?? 'the level'} moves a frame`,
    size: reference ? `compared with ${level?.name} ${reference.drawing.number} (pin another in Draw)` : '',
    lengths: `how long the drawings of ${level?.name ?? 'the level'} are held`,
    drawings: '',
  };
  return (
    <section aria-label="Graphs" className="panel flex h-56 flex-col overflow-hidden">
      <div className="flex items-center gap-3 border-line max-[480px]:flex-wrap border-b px-3 py-1.5">
        <span className="shrink-0 max-[480px]:shrink">
          <Choice label="Graph" value={graph} options={GRAPHS.map((value) => ({ value, label: GRAPH_WORDS[value] }))} onChange={onGraph} />
        </span>
        <span className="truncate text-soft text-xs">{about[graph]}</span>
      </div>
      <div className="min-h-0 flex-1 p-1.5">
        {graph === 'drawings' && <Later of={drawingsGraph} props={{}} />}
        {graph === 'travel' && (travel.length > 0 ? <Later of={travelGraph} props={{ travel, firstNumber }} /> : <Nothing level={level} />)}
        {graph === 'size' && (sizes.length > 1 ? <Later of={sizeGraph} props={{ sizes, firstNumber }} /> : <Nothing level={level} />)}
        {graph === 'lengths' &&
          (lengths.length > 0 ? <Later of={lengthGraph} props={{ lengths, firstNumber }} /> : <Nothing level={level} />)}
      </div>
    </section>
  );
}
