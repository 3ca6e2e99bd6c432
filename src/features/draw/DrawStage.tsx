'use client';
import { Maximize2, Minimize2 } from 'lucide-react';
import type { Level, Shot } from '@/core/document/model';
import { newDrawingHere } from '@/core/edit/drawingEdits';
import { drawingShownAt, roleWord, timingWord } from '@/core/sheet/reading';
import { runAt } from '@/core/sheet/runs';
import { nominalRate } from '@/core/time/rate';
import { drawingWords, NO_SHOT } from '@/core/words';
import { Player } from '@/features/clock/Player';
import { commandCalled, hint } from '@/features/commands/everyCommand';
import { DrawingMenu } from '@/features/draw/DrawingMenu';
import { NeighbourStrip } from '@/features/draw/NeighbourStrip';
import { OnionPanel } from '@/features/draw/OnionPanel';
import { Paper } from '@/features/draw/Paper';
import { ToolRail } from '@/features/draw/ToolRail';
import { goToStage } from '@/features/path/stages';
import { useFrameOf, useHasShot, useLevel, useProject, useShot, useSize } from '@/features/project/hooks';
import { OfLevel, OfShot } from '@/features/project/OfShot';
import { useViewStore } from '@/features/project/viewStore';
import { LevelsPanel } from '@/features/sheet/LevelsPanel';
import { Sheet } from '@/features/sheet/Sheet';
import { Boundary } from '@/ui/Boundary';
import { Button } from '@/ui/Button';
import { Fitted } from '@/ui/Fitted';
import { Stage } from '@/ui/Stage';

const runCommand = (id: string) => commandCalled(id).run;

/** What lies on the paper: the drawing with its role and frames, or what a stroke on the blank frame would begin. */
function PaperTitle({ shot, level }: { shot: Shot; level: Level }) {
  const { firstFrameNumber: firstNumber, rate } = useProject();
  const perSecond = nominalRate(rate);
  const frame = useFrameOf(shot);
  const drawing = drawingShownAt(level, frame);
  if (!drawing) {
    const edit = newDrawingHere({ shot, firstNumber, following: 'push', newId: () => 'x' }, level, frame);
    return (
      <>
        <h2 className="font-bold font-head text-xl">{level.name}, blank</h2>
        <p className="truncate text-soft">{edit.ok ? `a stroke begins ${edit.value.says.replace('New ', '')}` : edit.reason}</p>
      </>
    );
  }
  const run = level.kind === 'still' ? undefined : runAt(level.exposures, frame);
  const frames = run ? run.endFrame - run.startFrame : shot.frames;
  const where = run
    ? frames === 1
      ? `frame ${run.startFrame + firstNumber}`
      : `frames ${run.startFrame + firstNumber}–${run.endFrame - 1 + firstNumber}`
    : 'the whole shot';
  return (
    <>
      <h2 className="whitespace-nowrap font-bold font-head text-xl">{drawingWords(level.name, drawing.number)}</h2>
      <p className="truncate text-soft">
        {roleWord[drawing.role]}, {where}
        {run ? `, ${timingWord(frames, perSecond)}` : ''}
        {drawing.picture ? '' : ' · not drawn yet'}
      </p>
    </>
  );
}

function NoShot() {
  const { id } = useProject();
  return (
    <div className="space-y-3 p-8">
      <p>{NO_SHOT}</p>
      <Button kind="go" onClick={() => goToStage(id, 'plan')}>
        Go to Plan
      </Button>
    </div>
  );
}

/** The paper, or what plays in its place. */
function PaperOrPlayer() {
  const size = useSize();
  const playing = useViewStore((state) => state.playing);
  const shot = useShot();
  const level = useLevel();
  if (!shot || !level || playing)
    return (
      <Fitted width={size.width} height={size.height} className="flex-1">
        <Player className="h-full w-full" />
      </Fitted>
    );
  return (
    <div className="relative min-h-0 flex-1">
      <Boundary what="The paper" className="h-full">
        <Paper key={`${size.width}x${size.height}`} shot={shot} level={level} size={size} />
      </Boundary>
    </div>
  );
}

function Neighbours({ shot, level }: { shot: Shot; level: Level }) {
  const { size, firstFrameNumber } = useProject();
  if (level.kind === 'still') return null;
  return <NeighbourStrip shot={shot} level={level} size={size} firstNumber={firstFrameNumber} />;
}

const sheet = (shot: Shot) => <Sheet shot={shot} />;
const title = (shot: Shot, level: Level) => <PaperTitle shot={shot} level={level} />;
const neighbours = (shot: Shot, level: Level) => <Neighbours shot={shot} level={level} />;
const onionSkin = (shot: Shot) => <OnionPanel shot={shot} />;
const levels = (shot: Shot) => <LevelsPanel shot={shot} />;

/** The desk: sheet, paper with its onion skin, neighbours, tools, levels. */
export function DrawStage() {
  const hasShot = useHasShot();
  const isAlone = useViewStore((state) => state.paperAlone);
  if (!hasShot) return <NoShot />;
  return (
    <Stage
      name="draw"
      isAlone={isAlone}
      left={
        <Boundary what="The sheet" className="h-full">
          <OfShot>{sheet}</OfShot>
        </Boundary>
      }
      middle={
        <section aria-label="Desk" className="panel flex flex-col gap-2.5 bg-desk! p-3.5">
          <header className="flex min-h-8 items-baseline gap-3 max-[640px]:flex-wrap">
            <OfLevel>{title}</OfLevel>
            <span className="ml-auto flex shrink-0 gap-1.5 self-center max-[640px]:ml-0 max-[640px]:flex-wrap">
              <Button onClick={runCommand('new-drawing')} title={hint('A new drawing here', 'new-drawing')}>
                New drawing
              </Button>
              <Button onClick={runCommand('copy-drawing')} title={hint('An independent copy of the drawing before, here', 'copy-drawing')}>
                Copy
              </Button>
              <DrawingMenu />
              <Button
                onClick={runCommand('paper-alone')}
                aria-pressed={isAlone}
                title={hint(isAlone ? 'Show all panels again' : 'Paper alone: all panels step aside', 'paper-alone')}
                aria-label="Paper alone"
              >
                {isAlone ? <Minimize2 size={14} aria-hidden /> : <Maximize2 size={14} aria-hidden />}
              </Button>
            </span>
          </header>
          <PaperOrPlayer />
          {!isAlone && (
            <Boundary what="The neighbours">
              <OfLevel>{neighbours}</OfLevel>
            </Boundary>
          )}
          <div className="flex justify-center">
            <Boundary what="The tools">
              <ToolRail />
            </Boundary>
          </div>
        </section>
      }
      right={
        <aside className="panel overflow-y-auto">
          <Boundary what="The onion skin">
            <OfShot>{onionSkin}</OfShot>
          </Boundary>
          <Boundary what="The levels">
            <OfShot>{levels}</OfShot>
          </Boundary>
        </aside>
      }
    />
  );
}
