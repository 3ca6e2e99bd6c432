'use client';
import type { Recipe } from '@/core/output/recipe';
import { placedShots } from '@/core/reel/reel';
import { handOver } from '@/features/handover/queueStore';
import { useProject, useShot } from '@/features/project/hooks';
import { useViewStore } from '@/features/project/viewStore';
import { Button } from '@/ui/Button';

/** Takes the range that is played as a loop, where there is one; and asks for every shot on the reel as files of its own. */
export function WhichFrames({ recipe, onChange }: { recipe: Recipe; onChange: (part: Partial<Recipe>) => void }) {
  const project = useProject();
  const shot = useShot();
  const loop = useViewStore((state) => state.loop);
  const shots = [...new Set(placedShots(project).map(({ shot: placed }) => placed))];
  const first = project.firstFrameNumber;
  return (
    <div className="flex flex-wrap gap-1.5 empty:hidden">
      {loop && shot && (
        <Button
          onClick={() => onChange({ shotId: shot.id, fromText: String(loop.fromFrame + first), toText: String(loop.toFrame + first) })}
        >
          The loop, {loop.fromFrame + first}–{loop.toFrame + first}
        </Button>
      )}
      {recipe.shotId === null && shots.length > 1 && (
        <Button
          title="One handover a shot, each whole, in the queue"
          onClick={() => {
            for (const { id } of shots) void handOver({ ...recipe, shotId: id, fromText: '', toText: '' });
          }}
        >
          Each of the {shots.length} shots by itself
        </Button>
      )}
    </div>
  );
}
