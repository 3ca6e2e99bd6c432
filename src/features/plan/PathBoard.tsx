'use client';
import { type PointerEvent, useMemo, useRef, useState } from 'react';
import { keepChart, placeWords } from '@/core/chart/chartActs';
import { withPath } from '@/core/chart/chartEdit';
import { chartsWithPath, type Marker, markerAt, markersOf } from '@/core/chart/markers';
import { thinnedPath } from '@/core/chart/path';
import { sheetColumns } from '@/core/sheet/columns';
import type { Level, Shot } from '@/core/sheet/document';
import { framesInWords } from '@/core/sheet/frameWords';
import { runAt } from '@/core/sheet/runs';
import type { PathPoint } from '@/core/sheet/timingChart';
import { chartNow } from '@/features/acts/chartActs';
import { Player } from '@/features/clock/Player';
import { usePlanStore } from '@/features/plan/planStore';
import { actingNow, take } from '@/features/project/acting';
import { levelInView, useProject } from '@/features/project/hooks';
import { useViewStore } from '@/features/project/viewStore';
import { Button } from '@/ui/Button';

const linePoints = (path: readonly PathPoint[]) => path.map(({ x, y }) => `${x},${y}`).join(' ');

/** A card of a plan: the drawing's number with its role's mark, `unit` the height of its type in picture pixels. */
function PathCard({ marker, unit, now, strong }: { marker: Marker; unit: number; now: boolean; strong: boolean }) {
  const { drawing, point } = marker;
  const height = unit * (now ? 2.2 : 1.6);
  const width = Math.max(height, unit * (0.9 + drawing.number.length * (now ? 0.85 : 0.65)));
  const look = now ? 'fill-lime-wash stroke-moss' : drawing.picture ? 'fill-paper stroke-edge' : 'fill-paper stroke-edge';
  return (
    <g transform={`translate(${point.x} ${point.y})`} opacity={strong ? 1 : 0.55}>
      <rect
        x={-width / 2}
        y={-height / 2}
        width={width}
        height={height}
        rx={drawing.role === 'key' ? height / 2 : unit * 0.3}
        className={look}
        strokeWidth={unit * (now ? 0.16 : 0.1)}
        strokeDasharray={drawing.picture || now ? undefined : `${unit * 0.3} ${unit * 0.2}`}
      />
      <text
        textAnchor="middle"
        dominantBaseline="central"
        className="fill-ink font-bold font-head"
        fontSize={unit * (now ? 1.3 : 0.9)}
        textDecoration={drawing.role === 'breakdown' ? 'underline' : undefined}
      >
        {drawing.number}
      </text>
    </g>
  );
}

/** The ways of one level, with the card of now on its way. */
function LevelPaths({ level, frame, unit, strong }: { level: Level; frame: number; unit: number; strong: boolean }) {
  const charts = useMemo(() => chartsWithPath(level), [level]);
  const now = markerAt(level, frame);
  return (
    <>
      {charts.map((chart) => (
        <g key={chart.id}>
          <polyline
            points={linePoints(chart.path)}
            fill="none"
            className={strong ? 'stroke-moss' : 'stroke-edge'}
            strokeWidth={unit * 0.14}
            strokeLinecap="round"
            strokeDasharray={`0 ${unit * 0.42}`}
          />
          {markersOf(level, chart).map((marker) => (
            <PathCard key={`${chart.id} ${marker.drawing.id}`} marker={marker} unit={unit} now={false} strong={strong} />
          ))}
        </g>
      ))}
      {now && <PathCard marker={now} unit={unit} now strong />}
    </>
  );
}

/** Takes the stroke on the board as the way between the keys of now. */
function keepPath(drawn: readonly PathPoint[]): void {
  const now = chartNow();
  if (!now) return;
  const chart = withPath(now.chart, thinnedPath(drawn));
  const act = keepChart(actingNow(now.view), now.level, chart);
  const words = drawn.length === 0 ? 'Take the way away' : 'Draw the way';
  if (act.ok)
    take({
      ok: true,
      value: { step: { type: 'together', words: `${words}, ${act.value.says.toLowerCase()}`, steps: [act.value.step] }, says: words },
    });
  usePlanStore.setState({ drawingPath: false });
}

function PathWords({ shot, frame }: { shot: Shot; frame: number }) {
  const project = useProject();
  const drawing = usePlanStore((state) => state.drawingPath);
  const levelId = useViewStore((state) => state.levelId);
  const level = levelInView(shot, levelId);
  const now = level && chartNow();
  const marker = level && markerAt(level, frame);
  const run = level && runAt(level.exposures, frame);
  const hasPath = (now?.chart.path.length ?? 0) > 1;
  if (!level) return null;
  return (
    <div className="absolute inset-x-2 top-2 flex items-start gap-2">
      <p className="rounded bg-paper/85 px-1.5 text-soft text-xs" data-testid="path-words">
        {drawing && now
          ? `Draw the way from ${now.pair.from.drawing.number} to ${now.pair.to.drawing.number} on the board`
          : marker && run
            ? `${level.name} ${marker.drawing.number}, ${framesInWords(run.startFrame, run.endFrame - 1, project.startFrame)}${((words) => (words ? `, ${words}` : ''))(placeWords(level, marker.chart, marker.drawing.id))}`
            : now
              ? `No way drawn yet between ${now.pair.from.drawing.number} and ${now.pair.to.drawing.number} of ${level.name}`
              : `Call two drawings of ${level.name} keys (K) to draw the way between them`}
      </p>
      {now && (
        <span className="ml-auto flex gap-1">
          {hasPath && !drawing && (
            <Button tight onClick={() => keepPath([])}>
              Take the way away
            </Button>
          )}
          <Button
            tight
            kind={drawing ? 'dark' : 'plain'}
            aria-pressed={drawing}
            onClick={() => usePlanStore.setState({ drawingPath: !drawing })}
          >
            {drawing ? 'Leave it' : hasPath ? 'Draw the way anew' : 'Draw the way'}
          </Button>
        </span>
      )}
    </div>
  );
}

/** Cards moving along drawn ways by the fractions of their timing charts, over what is drawn so far. */
export function PathBoard({ shot }: { shot: Shot }) {
  const { size } = useProject();
  const frame = useViewStore((state) => Math.min(state.frame, shot.frames - 1));
  const levelId = useViewStore((state) => state.levelId);
  const drawingPath = usePlanStore((state) => state.drawingPath);
  const [drawn, setDrawn] = useState<readonly PathPoint[]>([]);
  const svg = useRef<SVGSVGElement>(null);
  const active = levelInView(shot, levelId);
  const unit = size.height / 26;

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
    if (drawn.length > 0) setDrawn((before) => [...before, pointOf(event)]);
  };
  const end = () => {
    if (drawn.length > 1) keepPath(drawn);
    setDrawn([]);
  };

  const levels = sheetColumns(shot).toReversed();
  return (
    <div className="relative h-full w-full overflow-hidden rounded-sm bg-white">
      <Player className="h-full w-full opacity-35" />
      <svg
        ref={svg}
        data-testid="path-board"
        role="img"
        aria-label="Cards on their ways"
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
        {active && <LevelPaths level={active} frame={frame} unit={unit} strong />}
        {drawn.length > 1 && (
          <polyline points={linePoints(drawn)} fill="none" className="stroke-ink" strokeWidth={unit * 0.12} strokeLinecap="round" />
        )}
      </svg>
      <PathWords shot={shot} frame={frame} />
    </div>
  );
}
