'use client';
import { Tabs } from 'radix-ui';
import type { Shot } from '@/core/document/model';
import { RatePanel } from '@/features/format/RatePanel';
import { ChartPanel } from '@/features/plan/ChartPanel';
import { LeftToDraw } from '@/features/plan/LeftToDraw';
import { PlanBoard } from '@/features/plan/PlanBoard';
import { type SIDES, type TABS, usePlanStore } from '@/features/plan/planStore';
import { ShotList } from '@/features/plan/ShotList';
import { WorkPanel } from '@/features/plan/WorkPanel';
import { useHasShot } from '@/features/project/hooks';
import { OfShot, OfShotSoon } from '@/features/project/OfShot';
import { Sheet } from '@/features/sheet/Sheet';
import { SheetCommandsBar } from '@/features/sheet/SheetCommandsBar';
import { AfterPaint } from '@/ui/AfterPaint';
import { Boundary } from '@/ui/Boundary';
import { Later, part } from '@/ui/later';
import { Stage } from '@/ui/Stage';

const shotSide = part(async () => (await import('@/features/plan/ShotSide')).ShotSide);
const drawingsGraph = part(async () => (await import('@/features/clock/DrawingsGraph')).DrawingsGraph);

type Tab = (typeof TABS)[number];
type Side = (typeof SIDES)[number];

const TAB_WORDS: Record<Tab, string> = { chart: 'Timing chart', shots: 'Shots', graph: 'Drawings a second' };
const SIDE_WORDS: Record<Side, string> = { work: 'Work and rate', shot: 'Shot and levels' };

const TRIGGER =
  'border-transparent border-b-2 px-1 py-1.5 font-semibold text-soft text-xs hover:text-ink data-[state=active]:border-lime data-[state=active]:text-ink';

const sheet = (shot: Shot) => <Sheet shot={shot} />;
const board = (shot: Shot) => <PlanBoard shot={shot} />;
const chart = (shot: Shot) => <ChartPanel shot={shot} />;

/** Planning: the sheet, the plan as it moves, the timing chart, the shots, the work there is. */
export function PlanStage() {
  const hasShot = useHasShot();
  const tab = usePlanStore((state) => state.tab);
  const side = usePlanStore((state) => state.side);
  return (
    <Stage
      name="plan"
      middlePx={840}
      left={
        hasShot ? (
          <Boundary what="The sheet" className="h-full">
            <OfShot>{sheet}</OfShot>
          </Boundary>
        ) : (
          <section className="panel p-4">No shot yet: make one in the shot list.</section>
        )
      }
      middle={
        <section aria-label="Plan" className="panel flex flex-col overflow-hidden">
          {hasShot && (
            <>
              <SheetCommandsBar />
              <Boundary what="The plan board">
                <OfShotSoon>{board}</OfShotSoon>
              </Boundary>
            </>
          )}
          <Tabs.Root
            value={hasShot ? tab : 'shots'}
            onValueChange={(value) => usePlanStore.setState({ tab: value as Tab })}
            className="flex h-[308px] shrink-0 flex-col border-line border-t"
          >
            <Tabs.List aria-label="Beneath the plan board" className="flex gap-4 border-line border-b px-3.5">
              {(Object.keys(TAB_WORDS) as Tab[]).map((value) => (
                <Tabs.Trigger key={value} value={value} className={TRIGGER}>
                  {TAB_WORDS[value]}
                </Tabs.Trigger>
              ))}
            </Tabs.List>
            <Tabs.Content value="chart" className="min-h-0 flex-1 overflow-y-auto">
              {hasShot && (
                <Boundary what="The timing chart">
                  <OfShot>{chart}</OfShot>
                </Boundary>
              )}
            </Tabs.Content>
            <Tabs.Content value="shots" className="flex min-h-0 flex-1 flex-col">
              <Boundary what="The shot list">
                <ShotList />
              </Boundary>
            </Tabs.Content>
            <Tabs.Content value="graph" className="min-h-0 flex-1">
              <Boundary what="The graph">
                <Later of={drawingsGraph} props={{}} />
              </Boundary>
            </Tabs.Content>
          </Tabs.Root>
        </section>
      }
      right={
        <Tabs.Root
          value={side}
          onValueChange={(value) => usePlanStore.setState({ side: value as Side })}
          className="panel flex flex-col overflow-hidden"
        >
          <Tabs.List aria-label="Beside the plan board" className="flex gap-4 border-line border-b px-3.5">
            {(Object.keys(SIDE_WORDS) as Side[]).map((value) => (
              <Tabs.Trigger key={value} value={value} className={TRIGGER}>
                {SIDE_WORDS[value]}
              </Tabs.Trigger>
            ))}
          </Tabs.List>
          <Tabs.Content value="work" className="min-h-0 flex-1 overflow-y-auto">
            {hasShot && (
              <Boundary what="The work">
                <AfterPaint>
                  <WorkPanel />
                  <LeftToDraw />
                  <RatePanel />
                </AfterPaint>
              </Boundary>
            )}
          </Tabs.Content>
          <Tabs.Content value="shot" className="min-h-0 flex-1 overflow-y-auto">
            {hasShot && (
              <Boundary what="The shot and its levels">
                <Later of={shotSide} props={{}} />
              </Boundary>
            )}
          </Tabs.Content>
        </Tabs.Root>
      }
    />
  );
}
