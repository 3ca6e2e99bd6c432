'use client';
import { useEffect } from 'react';
import type { Command } from '@/features/commands/command';
import { Says } from '@/features/help/Says';
import { TOUR, TOUR_PROJECT } from '@/features/help/tourCards';
import { goToCard, leaveTour, recallTour, startTour, useTourStore } from '@/features/help/tourStore';
import { goToStage, STAGE_NAMES } from '@/features/path/stages';
import { useProject } from '@/features/project/hooks';
import { goToShot } from '@/features/project/navigation';
import { openDemo } from '@/features/sync/api';
import { useProjectStore } from '@/features/sync/projectStore';
import { Button } from '@/ui/Button';
import { toast } from '@/ui/toast';

/** Takes a person to where a card is about. */
function goTo(index: number): void {
  const card = TOUR[index];
  const { project } = useProjectStore.getState();
  if (!card || !project) return;
  goToStage(project.id, card.stage);
  const shot = project.shots.find(({ code }) => code === card.at?.shot);
  if (card.at && shot) goToShot(shot.id, card.at.frame - project.firstFrameNumber);
}

/** Turns to a card, and goes to where it is about. */
function turnTo(index: number): void {
  goToCard(index);
  goTo(index);
}

/** Begins the tour, in the demo: it is made where it isn't there, and opened where another project is. */
export function takeTour(open: (address: string) => void): void {
  startTour();
  if (useProjectStore.getState().project?.id === TOUR_PROJECT) goTo(0);
  else
    openDemo().then(
      ({ id }) => open(`/projects/${id}/plan`),
      (error: unknown) => toast.error(error instanceof Error ? error.message : 'The demo could not be opened.'),
    );
}

/** The tour through the demo, a card at a time; left and taken up at will. */
export function Tour({ commands }: { commands: readonly Command[] }) {
  const project = useProject();
  const isHere = project.id === TOUR_PROJECT;
  const index = useTourStore((state) => state.card);
  useEffect(() => {
    if (isHere) recallTour(TOUR.length);
  }, [isHere]);
  const card = index === null ? undefined : TOUR[index];
  if (!isHere || index === null || !card) return null;
  const isLast = index === TOUR.length - 1;
  return (
    <aside
      aria-label="Ten minutes with Washday"
      // On Check it would lie over the findings, of which it speaks.
      className={`panel fixed bottom-[62px] z-30 w-[254px] border-2 border-moss p-3.5 shadow-lg ${card.stage === 'check' ? 'left-3.5' : 'right-3.5'}`}
    >
      <p className="numbers text-2xs text-soft">
        {index + 1} of {TOUR.length} · {STAGE_NAMES[card.stage]}
      </p>
      <div aria-live="polite">
        <h2 className="mt-0.5 font-bold">{card.title}</h2>
        <div className="text-xs leading-[17px]">
          <Says text={card.says} commands={commands} />
        </div>
      </div>
      <div className="mt-2.5 flex gap-1.5">
        {index > 0 && <Button onClick={() => turnTo(index - 1)}>Back</Button>}
        {!isLast && <Button onClick={() => turnTo(index + 1)}>Next</Button>}
        <Button kind="quiet" className="ml-auto" onClick={leaveTour}>
          {isLast ? 'Done' : 'Leave the tour'}
        </Button>
      </div>
    </aside>
  );
}
