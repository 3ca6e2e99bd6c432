'use client';
import { Player } from '@/features/clock/Player';
import { ShotList } from '@/features/plan/ShotList';
import { ShotSettings } from '@/features/plan/ShotSettings';
import { ShownCards } from '@/features/plan/ShownCards';
import { WorkPanel } from '@/features/plan/WorkPanel';
import { useProject, useShot } from '@/features/project/hooks';
import { LevelsPanel } from '@/features/sheet/LevelsPanel';
import { Sheet } from '@/features/sheet/Sheet';
import { SheetActsBar } from '@/features/sheet/SheetActsBar';
import { Fitted } from '@/ui/Fitted';

/** Planning: the sheet, what it shows now, the shots, the work there is. */
export function PlanStage() {
  const project = useProject();
  const shot = useShot();
  return (
    <div className="grid h-full grid-cols-[316px_minmax(0,1fr)_262px] gap-2.5">
      {shot ? <Sheet shot={shot} /> : <section className="panel p-4">No shot yet: make one in the shot list.</section>}
      <section aria-label="Plan board" className="panel flex flex-col overflow-hidden">
        {shot && (
          <>
            <SheetActsBar />
            <div className="flex min-h-0 flex-[3] flex-col gap-2 bg-desk p-3.5">
              <Fitted width={project.size.width} height={project.size.height} className="flex-1">
                <Player className="h-full w-full" />
              </Fitted>
              <ShownCards shot={shot} />
            </div>
          </>
        )}
        <ShotList />
      </section>
      <aside className="panel overflow-y-auto">
        {shot && (
          <>
            <ShotSettings key={shot.id} shot={shot} />
            <WorkPanel shot={shot} />
            <LevelsPanel shot={shot} />
          </>
        )}
      </aside>
    </div>
  );
}
