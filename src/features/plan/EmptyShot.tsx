import type { Shot } from '@/core/document/model';
import { commandCalled, hint } from '@/features/commands/everyCommand';
import { goToStage } from '@/features/path/stages';
import { useProject } from '@/features/project/hooks';
import { Button } from '@/ui/Button';

/** Whether nothing is planned, drawn or brought in on a shot. */
export const isEmptyShot = (shot: Shot): boolean => shot.levels.every(({ drawings }) => drawings.length === 0);

/** What stands where a plan would move, as long as there is none: how to begin. */
export function EmptyShot({ shot }: { shot: Shot }) {
  const { id } = useProject();
  return (
    <div className="absolute inset-0 z-10 flex bg-desk">
      <div className="m-auto max-w-md rounded-2xl bg-paper p-6 text-center">
        <h2 className="font-bold font-head text-lg">Nothing on {shot.code} yet</h2>
        <p className="mt-1.5 text-soft">
          Its drawings stand on the sheet to the left, a row a frame, and move here at the true rate before any of them is drawn.
        </p>
        <div className="mt-4 flex flex-wrap justify-center gap-2">
          <Button
            kind="go"
            title={hint('So many drawings, held so long, from here on', 'plan-drawings')}
            onClick={() => commandCalled('plan-drawings').run()}
          >
            Plan drawings …
          </Button>
          <Button title="Draw straight on: each new drawing comes on the sheet (Alt 2)" onClick={() => goToStage(id, 'draw')}>
            Draw
          </Button>
          <Button
            title={hint('A numbered sequence, an animated picture, a clip to trace over, a sound', 'bring-in')}
            onClick={() => commandCalled('bring-in').run()}
          >
            Bring in …
          </Button>
        </div>
      </div>
    </div>
  );
}
