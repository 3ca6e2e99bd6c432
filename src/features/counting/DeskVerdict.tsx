'use client';
import type { ReactNode } from 'react';
import { countText } from '@/core/time/counts';
import { type CountedThing, goToFrame, type PlanView, useDeskStore } from '@/features/counting/deskStore';
import { FramePicture } from '@/features/counting/FramePicture';
import { FrameStrips, type StripSide } from '@/features/counting/FrameStrips';
import { saveText } from '@/features/project/saveText';
import { Button } from '@/ui/Button';
import type { DeskHeld } from '@/workers/client';

const LARGE_PX = 640;

/** All that is said of a thing, as a text. */
function asText({ name, sentences }: CountedThing, held: DeskHeld | undefined, against: string): string {
  const lines = [name, ''];
  if (held) {
    const { agreement } = held;
    lines.push(`Held against ${against}: ${agreement.headline}`, ...agreement.sentences, '');
    for (const { what, asked, counted, agrees } of agreement.lines)
      lines.push(`${agrees ? '=' : '≠'} ${what}: planned ${asked}, counted ${counted}`);
    lines.push('');
  }
  return `${[...lines, ...sentences].join('\n')}\n`;
}

function Large({ of, frame, words, isWrong }: { of: StripSide; frame: number | null; words: ReactNode; isWrong: boolean }) {
  return (
    <figure className="min-w-0">
      <figcaption className="mb-1 text-xs">{words}</figcaption>
      <FramePicture
        side={of.side}
        frame={frame !== null && frame < of.frames ? frame : null}
        widthPx={LARGE_PX}
        size={of.size}
        className={`w-full rounded-lg border-2 ${isWrong ? 'border-rust' : 'border-line'}`}
      />
    </figure>
  );
}

/** The faults one after another, to be gone through. */
function Faults({ held, firstNumber }: { held: DeskHeld; firstNumber: number }) {
  const frame = useDeskStore((state) => state.frame);
  const { faults } = held;
  if (faults.length === 0) return null;
  const next = faults.find(({ planFrame }) => planFrame > frame);
  const before = faults.findLast(({ planFrame }) => planFrame < frame);
  const [first] = faults;
  return (
    <>
      {first && (
        <Button kind="go" onClick={() => goToFrame(first.planFrame)}>
          Go to {countText(first.planFrame + firstNumber)}
        </Button>
      )}
      {faults.length > 1 && (
        <>
          <Button disabled={!before} onClick={() => before && goToFrame(before.planFrame)}>
            Fault before
          </Button>
          <Button disabled={!next} onClick={() => next && goToFrame(next.planFrame)}>
            Next fault
          </Button>
        </>
      )}
    </>
  );
}

const MOST_SEEN = 4;

/** Sentences, the first of them seen at once and the rest when they are asked for. */
function Sentences({ of }: { of: readonly string[] }) {
  const rest = of.slice(MOST_SEEN);
  return (
    <>
      {of.slice(0, MOST_SEEN).map((sentence) => (
        <p key={sentence}>{sentence}</p>
      ))}
      {rest.length > 0 && (
        <details>
          <summary className="min-h-6 cursor-pointer font-semibold">{rest.length} more</summary>
          {rest.map((sentence) => (
            <p key={sentence}>{sentence}</p>
          ))}
        </details>
      )}
    </>
  );
}

function Nothing() {
  return (
    <div className="flex h-full flex-col items-center justify-center gap-2 p-8 text-center">
      <h2 className="font-bold font-head text-xl">Count any film, whoever made it</h2>
      <p className="max-w-md text-soft">
        Drop what came back from editing, or any film, sequence, loop, sound, ZIP or folder. Every frame is counted, and held against the
        plan: one sentence says what is wrong, and where.
      </p>
    </div>
  );
}

/** What a file is laid beside, as it was held against it. */
function besideIt(plan: PlanView, { planFrames, isDrawingsAlone }: DeskHeld): StripSide {
  const side = { ...plan, frames: planFrames };
  return isDrawingsAlone ? { ...side, side: { kind: 'drawings', id: plan.side.id }, name: `${plan.name}, drawings alone` } : side;
}

/** What is said of the chosen thing: one sentence, the frames beside each other, both pictures large. */
export function DeskVerdict({
  plan,
  againstName,
  acts,
}: {
  plan: PlanView | null;
  againstName: string;
  acts: (held: DeskHeld, thing: CountedThing) => ReactNode;
}) {
  const thing = useDeskStore((state) => state.things.find(({ id }) => id === state.chosenId));
  const held = useDeskStore((state) => (state.chosenId === null ? undefined : state.held.get(state.chosenId)));
  const frame = useDeskStore((state) => state.frame);
  if (!thing) return <Nothing />;
  if (thing.kind !== 'counted')
    return (
      <div
        className="flex h-full flex-col items-center justify-center gap-2 p-8 text-center"
        role={thing.kind === 'refused' ? 'alert' : 'status'}
      >
        <h2 className="break-all font-bold font-head text-xl">{thing.name}</h2>
        <p className="max-w-md text-soft">{thing.kind === 'refused' ? thing.reason : 'Being counted, frame by frame …'}</p>
      </div>
    );
  const { count, sentences } = thing;
  const own: StripSide = {
    side: { kind: 'thing', id: thing.id },
    name: thing.name,
    frames: held?.fileFrames ?? count.frames,
    size: { width: count.width || 16, height: count.height || 9 },
  };
  const planSide = plan && held && held.planFrames > 0 ? besideIt(plan, held) : null;
  const firstNumber = plan?.firstNumber ?? 1;
  const isSeen = count.kind !== 'sound' && count.undecoded === null && count.frames > 0;
  const shown = held?.fileOf ? [...held.fileOf].findIndex((file, planFrame) => file === frame && held.isSame?.[planFrame] === 1) : frame;
  return (
    <div className="flex h-full min-h-0 flex-col gap-3 overflow-y-auto p-4">
      <div className="space-y-1" aria-live="polite">
        <h2
          data-testid="desk-headline"
          className={`font-bold font-head text-xl leading-7 ${held && !held.agreement.agrees ? '' : held ? 'text-moss' : ''}`}
        >
          {held ? held.agreement.headline : `${thing.name}, counted`}
        </h2>
        {held && <Sentences of={held.agreement.sentences} />}
        {sentences.map((sentence) => (
          <p key={sentence} className="text-soft">
            {sentence}
          </p>
        ))}
        {!held && sentences.length === 0 && <p className="text-soft">Nothing is odd about it by itself.</p>}
      </div>
      <div className="flex flex-wrap gap-1.5">
        {held && <Faults held={held} firstNumber={firstNumber} />}
        {held && acts(held, thing)}
        <Button onClick={() => saveText(asText(thing, held, againstName), `${thing.name.replace(/^.*\//, '')}.count.txt`, 'text/plain')}>
          Save as text
        </Button>
      </div>
      {isSeen && <FrameStrips plan={planSide} file={own} marks={held ? { held, firstNumber } : null} />}
      {isSeen && (
        <div className={`grid gap-3 ${planSide ? 'grid-cols-2' : 'max-w-2xl grid-cols-1'}`}>
          {planSide && (
            <Large
              of={planSide}
              frame={frame}
              isWrong={false}
              words={
                <>
                  {capital(planSide.name)}, frame <b className="numbers">{frame + firstNumber}</b>
                </>
              }
            />
          )}
          <Large
            of={own}
            frame={frame}
            isWrong={planSide !== null && shown !== frame}
            words={
              <>
                File, frame <b className="numbers">{frame + firstNumber}</b>
                {planSide && shown !== frame && (
                  <span className="text-rust">
                    {' '}
                    {shown >= 0 ? `shows ${shown + firstNumber}` : frame < own.frames ? 'is not the plan’s' : 'is not there'}
                  </span>
                )}
              </>
            }
          />
        </div>
      )}
    </div>
  );
}

const capital = (words: string) => words.charAt(0).toUpperCase() + words.slice(1);
