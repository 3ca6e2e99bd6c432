'use client';
import { ArrowDown, ArrowUp, Plus, Trash2 } from 'lucide-react';
import { toast } from 'sonner';
import { framesOfReel, reelOf } from '@/core/reel/reel';
import { newLevel, type Project } from '@/core/sheet/document';
import { workOfShot } from '@/core/sheet/work';
import { countsOfMoment, lengthCounts } from '@/core/time/counts';
import { nominalRate } from '@/core/time/rate';
import { useProject, useShot } from '@/features/project/hooks';
import { goToShot } from '@/features/project/navigation';
import { make } from '@/features/project/session';
import { Button } from '@/ui/Button';

/** The code after the largest in use: codes count in tens, so that shots can be put between (common practice). */
function nextCode(project: Project): string {
  const largest = Math.max(0, ...project.shots.map((shot) => Number.parseInt(shot.code, 10) || 0));
  return String((Math.floor(largest / 10) + 1) * 10).padStart(3, '0');
}

function addShot(project: Project): void {
  const id = crypto.randomUUID();
  const level = newLevel(crypto.randomUUID(), 'Level 1');
  const shot = { id, code: nextCode(project), name: '', note: '', frames: nominalRate(project.rate) * 2, levels: [level], notes: [] };
  if (make({ type: 'addShot', shot, index: project.shots.length })) goToShot(id);
}

/** All shots in order, with where each starts and how long it is. */
export function ShotList() {
  const project = useProject();
  const open = useShot();
  const total = framesOfReel(project);
  const openIndex = project.shots.findIndex((shot) => shot.id === open?.id);
  const move = (by: -1 | 1) => open && make({ type: 'moveShot', shotId: open.id, index: openIndex + by });
  return (
    <section aria-label="Shots" className="flex min-h-36 flex-[2] flex-col border-line border-t">
      <header className="flex items-center gap-2 px-3.5 py-2">
        <h2 className="font-bold">Shots</h2>
        <span className="numbers text-soft text-xs">
          {project.shots.length} · {total} frames · {lengthCounts(total, project.rate).seconds} s
        </span>
        <span className="ml-auto flex gap-1">
          <Button
            aria-label="Shot earlier"
            title="Move the open shot earlier"
            disabled={openIndex <= 0}
            onClick={() => move(-1)}
            className="px-2"
          >
            <ArrowUp size={13} />
          </Button>
          <Button
            aria-label="Shot later"
            title="Move the open shot later"
            disabled={openIndex < 0 || openIndex >= project.shots.length - 1}
            onClick={() => move(1)}
            className="px-2"
          >
            <ArrowDown size={13} />
          </Button>
          <Button
            aria-label={`Remove shot ${open?.code ?? ''}`}
            title={open ? `Remove shot ${open.code} with its ${workOfShot(open).drawings} drawings` : ''}
            disabled={!open}
            onClick={() => {
              if (open && make({ type: 'removeShot', shotId: open.id }))
                toast.message(`Shot ${open.code} is removed with its ${workOfShot(open).drawings} drawings. Undo brings it back.`);
            }}
            className="px-2"
          >
            <Trash2 size={13} />
          </Button>
          <Button onClick={() => addShot(project)}>
            <Plus size={13} /> New shot
          </Button>
        </span>
      </header>
      <div className="min-h-0 flex-1 overflow-y-auto px-2 pb-2">
        <table className="w-full text-left">
          <thead className="sticky top-0 bg-paper text-soft text-xs">
            <tr>
              {['Code', 'Name', 'Starts', 'Frames', 'Seconds', 'Drawn', 'Note'].map((head) => (
                <th key={head} scope="col" className="px-2 py-1 font-normal">
                  {head}
                </th>
              ))}
            </tr>
          </thead>
          <tbody>
            {reelOf(project).map(({ shot, startFrame }) => {
              const work = workOfShot(shot);
              return (
                <tr key={shot.id} className={shot.id === open?.id ? 'bg-lime-wash' : 'hover:bg-sunk'}>
                  <th scope="row" className="rounded-l-lg px-2 py-1">
                    <button
                      type="button"
                      className="numbers font-semibold"
                      aria-current={shot.id === open?.id || undefined}
                      onClick={() => goToShot(shot.id)}
                    >
                      {shot.code}
                    </button>
                  </th>
                  <td className="max-w-40 truncate px-2 py-1">{shot.name}</td>
                  <td className="numbers px-2 py-1 text-xs">{countsOfMoment(startFrame, project.rate, project.startFrame).frame}</td>
                  <td className="numbers px-2 py-1 text-xs">{shot.frames}</td>
                  <td className="numbers px-2 py-1 text-xs">{lengthCounts(shot.frames, project.rate).seconds}</td>
                  <td className="numbers px-2 py-1 text-xs">
                    {work.drawn}/{work.drawings}
                  </td>
                  <td className="max-w-36 truncate rounded-r-lg px-2 py-1 text-soft" title={shot.note}>
                    {shot.note}
                  </td>
                </tr>
              );
            })}
          </tbody>
        </table>
      </div>
    </section>
  );
}
