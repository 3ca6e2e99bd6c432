'use client';
import type { Shot } from '@/core/document/model';
import type { Recipe } from '@/core/output/recipe';
import { placedShots } from '@/core/reel/reel';
import { ChosenItems } from '@/features/handover/ChosenItems';
import { handOver } from '@/features/handover/queueStore';
import { levelsThatLeave } from '@/features/handover/WhichLevel';
import { useProject, useShot } from '@/features/project/hooks';
import { useViewStore } from '@/features/project/viewStore';
import { Button } from '@/ui/Button';

/** What asks for every level of some shots as a film of its own. */
function eachLevel(recipe: Recipe, shots: readonly Shot[]): readonly Recipe[] {
  const whole = recipe.shotId === null ? { fromText: '', toText: '' } : {};
  return shots.flatMap((shot) =>
    levelsThatLeave(shot).map(({ id }) => ({ ...recipe, shotId: shot.id, levelId: id, withBackground: false, ...whole })),
  );
}

/** Takes the range that is played as a loop, where there is one; and asks for every shot or level, or some items, as files of their own. */
export function WhichFrames({ recipe, onChange }: { recipe: Recipe; onChange: (part: Partial<Recipe>) => void }) {
  const project = useProject();
  const shot = useShot();
  const loop = useViewStore((state) => state.loop);
  const shots = [...new Set(placedShots(project).map(({ shot: placed }) => placed))];
  const first = project.firstFrameNumber;
  const ofReel = recipe.shotId === null;
  const withLevels = ofReel ? shots : shot ? [shot] : [];
  const levels = withLevels.flatMap(levelsThatLeave).length;
  return (
    <div className="space-y-1.5">
      <div className="flex flex-wrap gap-1.5 empty:hidden">
        {loop && shot && (
          <Button
            onClick={() =>
              onChange({ shotId: shot.id, levelId: null, fromText: String(loop.fromFrame + first), toText: String(loop.toFrame + first) })
            }
          >
            The loop, {loop.fromFrame + first}–{loop.toFrame + first}
          </Button>
        )}
        {ofReel && shots.length > 1 && (
          <Button
            title="One handover a shot, each whole, in the queue"
            onClick={() => void handOver(...shots.map(({ id }) => ({ ...recipe, shotId: id, levelId: null, fromText: '', toText: '' })))}
          >
            Hand over each of the {shots.length} shots
          </Button>
        )}
        {levels > 1 && recipe.levelId === null && recipe.options.kind === 'film' && (
          <Button
            title="One handover a level, in the queue, without sound and finish"
            onClick={() => void handOver(...eachLevel(recipe, withLevels))}
          >
            Hand over each of the {levels} levels
          </Button>
        )}
      </div>
      {ofReel && <ChosenItems recipe={recipe} />}
    </div>
  );
}
