'use client';
import { memo, type PointerEvent, useMemo, useRef, useState } from 'react';
import { chartFor, keepChart, placeWords } from '@/core/chart/chartEdits';
import { withPath } from '@/core/chart/chartTicks';
import { chartsWithPath, type Marker, markerAt, markersOf } from '@/core/chart/markers';
import { pairAt } from '@/core/chart/pair';
import { thinnedPath } from '@/core/chart/path';
import type { Level, Shot } from '@/core/document/model';
import type { PathPoint } from '@/core/document/timingChart';
import { sheetColumns } from '@/core/sheet/columns';
import { runAt } from '@/core/sheet/runs';
import { framesInWords } from '@/core/time/frameWords';
import { CANCEL, drawingWords } from '@/core/words';
import { Player } from '@/features/clock/Player';
import { chartNow } from '@/features/commands/chartCommands';
import { usePlanStore } from '@/features/plan/planStore';
import { contextNow, newId, take } from '@/features/project/editContext';
import { levelInView, useFrameOf, useSize } from '@/features/project/hooks';
import { useSoon } from '@/features/project/useCalm';
import { useViewStore } from '@/features/project/viewStore';
import { useProjectStore } from '@/features/sync/projectStore';
import { Button } from '@/ui/Button';

const linePoints = (path: readonly PathPoint[]) => path.map(({ x, y }) => `${x},${y}`).join(' ');

/** The card of now on its way: the drawing's number with its role's mark, `unit` the height of its type in picture pixels. */
function NowCard({ marker, unit }: { marker: Marker; unit: number }) {
  const { drawing, point } = marker;
  const height = unit * 2.1;
  const width = Math.max(height, unit * (0.9 + drawing.number.length * 0.85));
  return (
    <g transform={`translate(${point.x} ${point.y})`}>
      <rect
        x={-width / 2}
        y={-height / 2}
        width={width}
        height={height}
        rx={drawing.role === 'key' ? height / 2 : unit * 0.35}
        className="fill-lime-wash stroke-moss"
        strokeWidth={unit * 0.16}
      />
      <text
        textAnchor="middle"
        dominantBaseline="central"
        className="fill-ink font-bold font-head"
        fontSize={unit * 1.25}
        textDecoration={drawing.role === 'breakdown' ? 'underline' : undefined}
      >
        {drawing.number}
      </text>
    </g>
  );
}

/** Drawings on a way: a dot each, keys a ring, with their numbers beside them where there is room. */
function WayMarks({ markers, unit }: { markers: readonly Marker[]; unit: number }) {
  let last: Marker['point'] | null = null;
  return markers.map(({ drawing, point }, index) => {
    const isEnd = index === 0 || index === markers.length - 1;
    const end = markers.at(-1)?.point;
    const clear = (other: Marker['point'] | null | undefined) => !other || Math.hypot(point.x - other.x, point.y - other.y) > unit * 1.1;
    const numbered = isEnd || (clear(last) && clear(end));
    if (numbered) last = point;
    return (
      <g key={drawing.id} transform={`translate(${point.x} ${point.y})`}>
        <circle
          r={unit * (drawing.role === 'inbetween' ? 0.28 : 0.42)}
          className={drawing.role === 'key' ? 'fill-paper stroke-ink' : 'fill-ink'}
          strokeWidth={unit * 0.14}
        />
        {numbered && (
          <text
            x={unit * 0.8}
            dominantBaseline="central"
            className="fill-ink font-semibold font-mono"
            fontSize={unit * 0.85}
            stroke="var(--color-paper)"
            strokeWidth={unit * 0.25}
            paintOrder="stroke"
            textDecoration={drawing.role === 'breakdown' ? 'underline' : undefined}
          >
            {drawing.number}
          </text>
        )}
      </g>
    );
  });
}

/** The ways of one level, with the card of now on its way. */
const LevelPaths = memo(function LevelPaths({
  level,
  frame,
  unit,
  strong,
}: {
  level: Level;
  frame: number;
  unit: number;
  strong: boolean;
}) {
  const charts = useMemo(() => chartsWithPath(level), [level]);
  const now = markerAt(level, frame);
  return (
    <>
      {charts.map((chart) => (
        <g key={chart.id} opacity={strong ? 1 : 0.45}>
          <polyline
            points={linePoints(chart.path)}
            fill="none"
            className={strong ? 'stroke-moss' : 'stroke-edge'}
            strokeWidth={unit * 0.16}
            strokeLinecap="round"
            strokeDasharray={`0 ${unit * 0.42}`}
          />
          <WayMarks markers={markersOf(level, chart)} unit={unit} />
        </g>
      ))}
      {now && <NowCard marker={now} unit={strong ? unit : unit * 0.8} />}
    </>
  );
});

/** Takes the stroke on the board as the way between the keys of now. */
function keepPath(drawn: readonly PathPoint[]): void {
  const now = chartNow();
  if (!now) return;
  const chart = withPath(now.chart, thinnedPath(drawn));
  const edit = keepChart(contextNow(now.view), now.level, chart);
  const words = drawn.length === 0 ? 'Remove the motion path' : 'Draw the motion path';
  if (edit.ok)
    take({
      ok: true,
      value: { step: { type: 'together', words: `${words}, ${edit.value.says.toLowerCase()}`, steps: [edit.value.step] }, says: words },
    });
  usePlanStore.setState({ drawingPath: false });
}

/** What the path board shows in words, and the way to draw one; they may come a moment after what they tell of. */
export function PathWords({ shot }: { shot: Shot }) {
  const firstNumber = useProjectStore(({ project }) => project?.firstFrameNumber ?? 0);
  const drawing = usePlanStore((state) => state.drawingPath);
  const levelId = useSoon(useViewStore((state) => state.levelId));
  const frame = useSoon(useViewStore((state) => state.frame));
  return <WordsAt shot={shot} levelId={levelId} frame={frame} firstNumber={firstNumber} drawing={drawing} />;
}

type WordsProps = { shot: Shot; levelId: string | null; frame: number; firstNumber: number; drawing: boolean };

const WordsAt = memo(function WordsAt({ shot, levelId, frame: frameNow, firstNumber, drawing }: WordsProps) {
  const frame = Math.min(frameNow, shot.frames - 1);
  const level = levelInView(shot, levelId);
  if (!level) return null;
  const pair = pairAt(level, frame);
  const marker = markerAt(level, frame);
  const run = runAt(level.exposures, frame);
  const hasPath = pair !== null && chartFor(level, pair, newId).chart.path.length > 1;
  const placed = marker && placeWords(level, marker.chart, marker.drawing.id);
  const shown =
    marker && run && `${drawingWords(level.name, marker.drawing.number)}, ${framesInWords(run.startFrame, run.endFrame - 1, firstNumber)}`;
  const between = pair && `${pair.from.drawing.number} → ${pair.to.drawing.number} of ${level.name}`;
  const words = !pair
    ? `Make two drawings of ${level.name} keys (K) to draw the motion path between them`
    : drawing
      ? `Draw the motion path ${between} on the board`
      : shown
        ? `${shown}${placed ? `, ${placed}` : ''}`
        : `No motion path drawn yet for ${between}`;
  return (
    <>
      <p className="min-w-0 truncate text-soft text-xs" data-testid="path-words" title={words}>
        {words}
      </p>
      {pair && (
        <span className="flex shrink-0 gap-1">
          <Button
            tight
            kind={drawing ? 'dark' : 'plain'}
            aria-pressed={drawing}
            onClick={() => usePlanStore.setState({ drawingPath: !drawing })}
          >
            {drawing ? CANCEL : hasPath ? 'Redraw' : 'Draw the motion path'}
          </Button>
          {hasPath && drawing && (
            <Button tight onClick={() => keepPath([])}>
              Remove it
            </Button>
          )}
        </span>
      )}
    </>
  );
});

/** Cards moving along drawn ways by the fractions of their timing charts, over what is drawn so far. */
export function PathBoard({ shot }: { shot: Shot }) {
  const size = useSize();
  const frame = useFrameOf(shot);
  const levelId = useViewStore((state) => state.levelId);
  const drawingPath = usePlanStore((state) => state.drawingPath);
  const [drawn, setDrawn] = useState<readonly PathPoint[]>([]);
  const svg = useRef<SVGSVGElement>(null);
  const active = levelInView(shot, levelId);
  const unit = size.height / 24;

  const pointOf = (event: PointerEvent<SVGSVGElement>): PathPoint => {
    const box = event.currentTarget.getBoundingClientRect();
    return { x: ((event.clientX - box.left) * size.width) / box.width, y: ((event.clientY - box.top) * size.height) / box.height };
  };
  const begin = (event: PointerEvent<SVGSVGElement>) => {
    if (!drawingPath || event.button !== 0) return;
    event.currentTarget.setPointerCapture(event.pointerId);
    setDrawn([pointOf(event)]);
  };
  const go = (event: PointerEvent<SVGSVGElement>) => {
    if (drawn.length === 0) return;
    const point = pointOf(event);
    setDrawn((before) => [...before, point]);
  };
  const end = () => {
    if (drawn.length > 1) keepPath(drawn);
    setDrawn([]);
  };

  // Most levels have no path: nothing is looked for on them with every step.
  const levels = useMemo(
    () =>
      sheetColumns(shot)
        .toReversed()
        .filter((level) => chartsWithPath(level).length > 0),
    [shot],
  );
  return (
    <div className="relative h-full w-full overflow-hidden rounded-sm bg-white">
      <Player className="h-full w-full opacity-35" />
      <svg
        ref={svg}
        data-testid="path-board"
        role="img"
        aria-label="Cards on their motion paths"
        viewBox={`0 0 ${size.width} ${size.height}`}
        className={`absolute inset-0 h-full w-full ${drawingPath ? 'touch-none cursor-crosshair' : ''}`}
        onPointerDown={begin}
        onPointerMove={go}
        onPointerUp={end}
        onPointerCancel={() => setDrawn([])}
      >
        {levels
          .filter((level) => level !== active)
          .map((level) => (
            <LevelPaths key={level.id} level={level} frame={frame} unit={unit} strong={false} />
          ))}
        {active && levels.includes(active) && <LevelPaths level={active} frame={frame} unit={unit} strong />}
        {drawn.length > 1 && (
          <polyline points={linePoints(drawn)} fill="none" className="stroke-ink" strokeWidth={unit * 0.12} strokeLinecap="round" />
        )}
      </svg>
    </div>
  );
}
