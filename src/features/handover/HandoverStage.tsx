'use client';
import { useEffect, useMemo } from 'react';
import { planOf } from '@/core/output/recipe';
import { Player } from '@/features/clock/Player';
import { GoingOut } from '@/features/handover/GoingOut';
import { formatFor, useHandoverStore } from '@/features/handover/handoverStore';
import { LeavingFrames } from '@/features/handover/LeavingFrames';
import { RecipePanel } from '@/features/handover/RecipePanel';
import { sendWaitingReceipts } from '@/features/handover/receiptsWaiting';
import { today } from '@/features/handover/today';
import { useProject, useShot } from '@/features/project/hooks';
import { Boundary } from '@/ui/Boundary';
import { Fitted } from '@/ui/Fitted';
import { Later, part } from '@/ui/later';
import { Stage } from '@/ui/Stage';
import { awaitHandover, awaitNoHandover } from '@/workers/client';

const loopTrial = part(async () => (await import('@/features/handover/LoopTrial')).LoopTrial);

/** Handing over: the recipe, the frames that leave, what goes out and its receipts. */
export function HandoverStage() {
  const project = useProject();
  const shot = useShot();
  const recipe = useHandoverStore((state) => state.recipe);
  const leaving = useMemo(() => planOf(project, recipe, formatFor(recipe), today()), [project, recipe]);

  useEffect(() => sendWaitingReceipts(project.id), [project.id]);

  const formatId = formatFor(recipe).id;
  useEffect(() => awaitHandover(formatId), [formatId]);
  useEffect(() => awaitNoHandover, []);

  useEffect(() => {
    if (recipe.shotId !== null && shot && recipe.shotId !== shot.id)
      useHandoverStore.setState({ recipe: { ...recipe, shotId: shot.id, levelId: null, fromText: '', toText: '' } });
  }, [shot, recipe]);

  return (
    <Stage
      name="hand-over"
      leftPx={340}
      rightPx={330}
      left={
        <Boundary what="The recipe">
          <RecipePanel leaving={leaving} />
        </Boundary>
      }
      middle={
        <section aria-label="Picture" className="panel flex flex-col overflow-hidden">
          <LeavingFrames leaving={leaving} />
          {leaving.ok && recipe.options.kind === 'loop' ? (
            <Later of={loopTrial} props={{ leaving: leaving.value, options: recipe.options }} />
          ) : (
            <>
              {(!recipe.withBackground || recipe.levelId !== null) && (
                <p className="px-3.5 pt-3.5 text-soft text-xs">The film as it plays, with everything in it: what leaves stands above.</p>
              )}
              <Fitted width={project.size.width} height={project.size.height} className="m-3.5 flex-1">
                <Player className="h-full w-full" />
              </Fitted>
            </>
          )}
        </section>
      }
      right={
        <Boundary what="What is handed over">
          <GoingOut />
        </Boundary>
      }
    />
  );
}
