'use client';
import { useEffect, useState } from 'react';
import { type Project, type Shot, shotById } from '@/core/document/model';
import { setNote } from '@/core/edit/noteEdits';
import { editOfFault, faultEditWords, isFaultOfTiming } from '@/core/outside/faultEdit';
import type { Fault } from '@/core/outside/faults';
import { isWhole, shotAt, shotsInOrder } from '@/core/reel/reel';
import { DeskFigures } from '@/features/counting/DeskFigures';
import { DeskFiles } from '@/features/counting/DeskFiles';
import { DeskMiddle } from '@/features/counting/DeskMiddle';
import { type CountedThing, holdAllAgainst, type PlanView, putOnDesk, useDeskStore } from '@/features/counting/deskStore';
import { forgetPictures } from '@/features/counting/framePictures';
import { HeldAgainstChoice } from '@/features/counting/HeldAgainstChoice';
import { planOrder } from '@/features/counting/planOrders';
import { DeskSwitch } from '@/features/path/DeskSwitch';
import { useDeskView } from '@/features/path/deskView';
import { useCalmProject } from '@/features/project/calmProject';
import { contextIn, take } from '@/features/project/editContext';
import { goToShot } from '@/features/project/navigation';
import { Boundary } from '@/ui/Boundary';
import { Button } from '@/ui/Button';
import { Stage } from '@/ui/Stage';
import { toast } from '@/ui/toast';
import { countingDesk, type DeskHeld } from '@/workers/client';

/** What of the project things are held against: the whole reel, a shot by its id, or none of it. */
type Chosen = 'reel' | string | null;

/** Has the plan looked at, and things held against it; again when it has changed. What is going on is told in words. */
function usePlan(project: Project, chosen: Chosen): { readonly view: PlanView | null; readonly words: string | null } {
  const [state, setState] = useState<{ view: PlanView | null; words: string | null }>({ view: null, words: null });
  useEffect(() => {
    if (chosen === null) {
      setState({ view: null, words: null });
      return;
    }
    let isOver = false;
    const { against } = useDeskStore.getState();
    const key = `${chosen} ${crypto.randomUUID()}`;
    void (async () => {
      setState({ view: null, words: 'The plan is being looked at …' });
      const order = await planOrder(project, chosen === 'reel' ? null : chosen, () => isOver);
      if (isOver) return;
      if (!order) {
        setState({ view: null, words: 'There is nothing on the reel to hold files against.' });
        return;
      }
      forgetPictures();
      const isSeen = await countingDesk.plan(key, order, (frames) => {
        if (!isOver) setState({ view: null, words: `The plan is being looked at: ${frames} of ${order.held.frames} frames` });
      });
      if (isOver || !isSeen) return;
      const { name, size, firstNumber } = order.held;
      setState({ view: { side: { kind: 'plan', id: key }, name, size, firstNumber }, words: null });
      // What was chosen meanwhile, a receipt or nothing, stays chosen, though it may not have come to this yet.
      if (useDeskStore.getState().against === against) holdAllAgainst({ kind: 'plan', key, name, view: null });
    })().catch((error: unknown) => {
      if (!isOver)
        setState({ view: null, words: `The plan could not be looked at: ${error instanceof Error ? error.message : String(error)}.` });
    });
    return () => {
      isOver = true;
    };
  }, [project, chosen]);
  return state;
}

type Place = { readonly shot: Shot; readonly frame: number; readonly isWhole: boolean };

/** Where a frame of the plan stands on a sheet; null where no shot is there. */
function placeOf(project: Project, chosen: Chosen, planFrame: number): Place | null {
  if (chosen !== null && chosen !== 'reel') {
    const shot = shotById(project, chosen);
    return shot ? { shot, frame: planFrame, isWhole: true } : null;
  }
  const placed = shotAt(project, planFrame);
  return placed ? { shot: placed.shot, frame: placed.fromFrame + planFrame - placed.startFrame, isWhole: isWhole(placed) } : null;
}

const NOT_A_SHOT = 'No shot stands there: it is a clip or a gap.';

/** Makes the sheet like the file in the fault that is looked at, in one step. */
function takeFault(project: Project, chosen: Chosen, fault: Fault): void {
  const place = placeOf(project, chosen, fault.planFrame);
  if (!place) toast.error(NOT_A_SHOT);
  else take(editOfFault({ ...place, context: contextIn(project, place.shot) }, fault), true);
}

/** What can be done about what is wrong: it is written on the sheet, or the sheet is made like the file. */
function FaultActs({ project, chosen, held, thing }: { project: Project; chosen: Chosen; held: DeskHeld; thing: CountedThing }) {
  const frame = useDeskStore((state) => state.frame);
  const fault = held.faults.find(({ planFrame }) => planFrame === frame) ?? held.faults[0];
  return (
    <>
      <Button onClick={() => noteFault(project, chosen, held, thing)} title="Writes the sentence as a note on the frame it speaks of">
        Put it on the sheet
      </Button>
      {fault && isFaultOfTiming(fault) && (
        <Button
          onClick={() => takeFault(project, chosen, fault)}
          title="Where that is as intended: the shot is made like the file, in one step that can be undone"
        >
          {faultEditWords(fault)}
        </Button>
      )}
    </>
  );
}

/** Writes the first fault of a thing on the sheet, as a note on its frame, and shows it there. */
function noteFault(project: Project, chosen: Chosen, held: DeskHeld, thing: CountedThing): void {
  const place = placeOf(project, chosen, held.faults[0]?.planFrame ?? 0);
  if (!place) {
    toast.error(NOT_A_SHOT);
    return;
  }
  const { shot } = place;
  const frame = Math.min(place.frame, shot.frames - 1);
  const words = `${thing.name.replace(/^.*\//, '')}: ${held.agreement.headline}`.slice(0, 400);
  if (take(setNote(contextIn(project, shot), frame, 'note', words), true)) goToShot(shot.id, frame);
}

/** The counting desk of an open project: what came back is held against its reel and its shots. */
export function ProjectDesk() {
  const project = useCalmProject();
  const [chosen, setChosen] = useState<Chosen>('reel');
  const against = useDeskStore((state) => state.against);
  const { view, words } = usePlan(project, chosen);
  const dropped = useDeskView((state) => state.dropped);
  useEffect(() => {
    if (dropped.length === 0) return;
    useDeskView.setState({ dropped: [] });
    void putOnDesk(dropped);
  }, [dropped]);
  // What is held against something else is held against nothing of the project.
  useEffect(() => {
    if (
      against.kind === 'receipt' ||
      against.kind === 'thing' ||
      (against.kind === 'plan' && against.view) ||
      (against.kind === 'nothing' && view)
    )
      setChosen(null);
  }, [against, view]);

  const plans = [{ id: 'reel', name: 'Reel, today' }, ...shotsInOrder(project).map(({ id, code }) => ({ id, name: `Shot ${code}` }))];
  return (
    <Stage
      name="counting-desk"
      leftPx={300}
      rightPx={330}
      left={
        <Boundary what="What came back">
          <DeskFiles
            top={<DeskSwitch isCounting />}
            against={
              <>
                <HeldAgainstChoice
                  plans={plans.map(({ id, name }) => (
                    <Button key={id} kind={chosen === id ? 'dark' : 'plain'} aria-pressed={chosen === id} onClick={() => setChosen(id)}>
                      {name}
                    </Button>
                  ))}
                />
                {words && (
                  <p role="status" className="text-soft text-xs">
                    {words}
                  </p>
                )}
              </>
            }
          />
        </Boundary>
      }
      middle={
        <DeskMiddle
          plan={view}
          acts={(held, thing) =>
            chosen !== null && !held.agreement.agrees && <FaultActs project={project} chosen={chosen} held={held} thing={thing} />
          }
        />
      }
      right={
        <Boundary what="The figures">
          <DeskFigures />
        </Boundary>
      }
    />
  );
}
