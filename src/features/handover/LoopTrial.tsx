'use client';
import { ChevronLeft, ChevronRight } from 'lucide-react';
import { useEffect, useRef, useState } from 'react';
import { bytesText } from '@/core/bytes';
import type { LoopOptions } from '@/core/output/loop';
import type { NamedLeaving } from '@/core/output/recipe';
import { countText, plural } from '@/core/time/counts';
import { framesInWords } from '@/core/time/frameWords';
import { useHandoverStore } from '@/features/handover/handoverStore';
import { LoopTimes } from '@/features/handover/LoopTimes';
import { useQueueStore } from '@/features/handover/queueStore';
import { dropTrial, isMadeOf, stopTrial, type Trial, triedPicture, tryRecipe, useTrialStore } from '@/features/handover/trialStore';
import { useProject } from '@/features/project/hooks';
import { Button } from '@/ui/Button';
import { Choice } from '@/ui/Choice';
import type { TriedPicture } from '@/workers/client';

const CALM_MILLISECONDS = 600;
/** Loops of more pictures are made when they are asked for. */
const MOST_BY_ITSELF = 240;

/** Whether a handover is under way. */
const useIsBusy = (): boolean => useQueueStore(({ queue }) => queue.some(({ state }) => 'progress' in state));

/** Has the loop that is asked for made a moment after nothing was changed any more. */
function useTrial(leaving: NamedLeaving): Trial {
  const project = useProject();
  const recipe = useHandoverStore((state) => state.recipe);
  const trial = useTrialStore((state) => state.trial);
  const pictures = leaving.plan.runs.length;
  const isBusy = useIsBusy();
  useEffect(() => {
    // What the fitting chose was made as it chose it, and what was made before a handover is still right after it.
    if (isMadeOf(project, recipe)) return;
    dropTrial();
    // A handover has the cores to itself.
    if (isBusy || pictures > MOST_BY_ITSELF) return;
    const timer = setTimeout(() => void tryRecipe(project, recipe), CALM_MILLISECONDS);
    return () => clearTimeout(timer);
  }, [project, recipe, pictures, isBusy]);
  useEffect(() => () => dropTrial(), []);
  return trial;
}

const ZOOMS = [1, 2, 4, 8] as const;

/** A picture of those compared, a part of it as large as it is magnified; dragging moves the part. */
function Magnified({
  bitmap,
  name,
  zoom,
  at,
  onMove,
}: {
  bitmap: ImageBitmap;
  name: string;
  zoom: number;
  at: { readonly x: number; readonly y: number };
  onMove: (x: number, y: number) => void;
}) {
  const canvas = useRef<HTMLCanvasElement>(null);
  const dragged = useRef<{ x: number; y: number } | null>(null);
  useEffect(() => {
    const context = canvas.current?.getContext('2d');
    if (!context || !canvas.current) return;
    canvas.current.width = bitmap.width;
    canvas.current.height = bitmap.height;
    context.imageSmoothingEnabled = false;
    context.clearRect(0, 0, bitmap.width, bitmap.height);
    const [width, height] = [bitmap.width / zoom, bitmap.height / zoom];
    context.drawImage(
      bitmap,
      at.x * (bitmap.width - width),
      at.y * (bitmap.height - height),
      width,
      height,
      0,
      0,
      bitmap.width,
      bitmap.height,
    );
  }, [bitmap, zoom, at]);
  return (
    <figure className="min-w-0">
      <canvas
        ref={canvas}
        aria-label={`${name}${zoom > 1 ? `, ${zoom} times as large` : ''}`}
        role="img"
        className={`checkered w-full rounded border border-line ${zoom > 1 ? 'cursor-grab' : ''}`}
        onPointerDown={(event) => {
          event.currentTarget.setPointerCapture(event.pointerId);
          dragged.current = { x: event.clientX, y: event.clientY };
        }}
        onPointerMove={(event) => {
          const from = dragged.current;
          if (!from || event.buttons === 0 || zoom === 1) return;
          const box = event.currentTarget.getBoundingClientRect();
          onMove(at.x - (event.clientX - from.x) / box.width / (zoom - 1), at.y - (event.clientY - from.y) / box.height / (zoom - 1));
          dragged.current = { x: event.clientX, y: event.clientY };
        }}
        onPointerUp={() => {
          dragged.current = null;
        }}
      />
      <figcaption className="mt-0.5 text-center text-soft text-xs">{name}</figcaption>
    </figure>
  );
}

const within = (part: number): number => Math.max(0, Math.min(1, part));

/** The very file, as a page plays it. */
function PlayedByPage({ file, isPage }: { file: Blob; isPage: boolean }) {
  const [address, setAddress] = useState<string | null>(null);
  useEffect(() => {
    const made = URL.createObjectURL(isPage ? new Blob([file], { type: 'text/html' }) : file);
    setAddress(made);
    // What shows it may still be loading it.
    return () => void setTimeout(() => URL.revokeObjectURL(made), 1000);
  }, [file, isPage]);
  return (
    <figure className="min-w-0">
      {/* biome-ignore lint/performance/noImgElement: the file is in memory, and must be played as it is. */}
      {address && !isPage && <img src={address} alt="The loop, playing" className="checkered w-full rounded border border-line" />}
      {address && isPage && (
        <iframe
          src={address}
          title="The page, playing"
          sandbox="allow-scripts"
          className="aspect-video w-full rounded border border-line"
        />
      )}
      <figcaption className="mt-0.5 text-center text-soft text-xs">As a page plays it</figcaption>
    </figure>
  );
}

/** The picture as it was drawn, as it comes out, and where they differ, beside the whole as a page plays it. */
function Compared({ picture, file, isPage }: { picture: TriedPicture; file: Blob | null; isPage: boolean }) {
  const [zoom, setZoom] = useState<(typeof ZOOMS)[number]>(1);
  const [at, setAt] = useState({ x: 0.5, y: 0.5 });
  const move = (x: number, y: number) => setAt({ x: within(x), y: within(y) });
  const named = [
    { name: 'Original', bitmap: picture.original },
    { name: 'Result', bitmap: picture.result },
    { name: 'Difference, × 4', bitmap: picture.difference },
  ];
  return (
    <div className="space-y-2">
      <div className="grid grid-cols-2 gap-2">
        {named.map(({ name, bitmap }) => (
          <Magnified key={name} name={name} bitmap={bitmap} zoom={zoom} at={at} onMove={move} />
        ))}
        {file && <PlayedByPage file={file} isPage={isPage} />}
      </div>
      <div className="flex flex-wrap items-center gap-3">
        <Choice
          label="Magnified"
          value={String(zoom)}
          options={ZOOMS.map((each) => ({ value: String(each), label: `${each} ×` }))}
          onChange={(value) => setZoom(ZOOMS.find((each) => String(each) === value) ?? 1)}
        />
        {zoom > 1 && (
          <div className="flex items-center gap-2 text-xs">
            {(['x', 'y'] as const).map((axis) => (
              <label key={axis} className="flex items-center gap-1 text-soft">
                {axis === 'x' ? 'Across' : 'Down'}
                <input
                  type="range"
                  min={0}
                  max={1}
                  step={0.01}
                  value={at[axis]}
                  onChange={(event) => setAt({ ...at, [axis]: Number(event.target.value) })}
                  className="w-20 accent-ink"
                />
              </label>
            ))}
          </div>
        )}
        <p className="numbers text-soft text-xs">
          {picture.mostLevels === 0
            ? 'Every pixel is as drawn.'
            : `${picture.meanLevels.toFixed(2)} of 255 levels apart on average, ${picture.mostLevels} at most.`}
        </p>
      </div>
    </div>
  );
}

/** The picture of the loop at a place, once it is made; the one before until the next is there. */
function usePicture(trial: Trial, place: number): TriedPicture | null {
  const [picture, setPicture] = useState<TriedPicture | null>(null);
  useEffect(() => {
    if (trial.kind !== 'made') return;
    let current = true;
    void triedPicture(place).then((found) => current && found && setPicture(found));
    return () => {
      current = false;
    };
  }, [trial, place]);
  return picture;
}

/** What is done now of a loop that is being made. */
function makingWords({ isLooking, trying }: Trial & { kind: 'making' }): string {
  if (trying) return `Trying ${trying}${isLooking ? ', its colours first' : ''}:`;
  return isLooking ? 'Looking at its colours:' : 'Making it:';
}

function SizeWords({ trial, onTry }: { trial: Trial; onTry: () => void }) {
  const isBusy = useIsBusy();
  switch (trial.kind) {
    case 'none':
      return <span className="text-soft">{isBusy ? 'worked out when the handover is done' : 'being worked out…'}</span>;
    case 'making':
      return (
        <span className="flex items-center gap-2">
          <span className="numbers text-soft">
            {makingWords(trial)} {countText(trial.framesDone)} of {plural(trial.frames, 'frame')}
          </span>
          <Button onClick={stopTrial}>Stop</Button>
        </span>
      );
    case 'made':
      return (
        <span className="numbers">
          <b>{bytesText(trial.loop.file.size)}</b> <span className="text-soft">({countText(trial.loop.file.size)} bytes)</span>
          {trial.fitted && <span className="text-moss"> with {trial.fitted}</span>}
        </span>
      );
    case 'refused':
      return <span className="text-rust">{trial.reason}</span>;
    case 'stopped':
      return <Button onClick={onTry}>Work out the size</Button>;
  }
}

/** The loop before it is handed over: how large it will be, and each picture as it was drawn and as it comes out, with its time. */
export function LoopTrial({ leaving, options }: { leaving: NamedLeaving; options: LoopOptions }) {
  const project = useProject();
  const recipe = useHandoverStore((state) => state.recipe);
  const trial = useTrial(leaving);
  const { runs } = leaving.plan;
  const [wanted, setPlace] = useState(0);
  const place = Math.min(wanted, runs.length - 1);
  const picture = usePicture(trial, place);
  const run = runs[place];
  const byHand = runs.length > MOST_BY_ITSELF && trial.kind === 'none';
  return (
    <section aria-label="The loop" className="min-h-0 flex-1 space-y-3 overflow-y-auto p-3.5">
      <div className="flex min-h-7 flex-wrap items-center gap-2 text-xs" aria-live="polite">
        <h2 className="font-bold text-sm">Size</h2>
        {byHand ? (
          <Button onClick={() => void tryRecipe(project, recipe)}>Work out the size</Button>
        ) : (
          <SizeWords trial={trial} onTry={() => void tryRecipe(project, recipe)} />
        )}
      </div>
      {picture ? (
        <Compared
          picture={picture}
          file={trial.kind === 'made' && recipe.formatId !== 'strip' ? trial.loop.file : null}
          isPage={recipe.formatId === 'page'}
        />
      ) : (
        <p className="grid min-h-40 place-items-center rounded-lg bg-sunk text-soft text-xs">
          The pictures stand here once the loop is made.
        </p>
      )}
      {run && (
        <div className="space-y-2">
          <div className="flex items-center gap-2 text-xs">
            <Button tight aria-label="Picture before" disabled={place === 0} onClick={() => setPlace(place - 1)}>
              <ChevronLeft size={14} />
            </Button>
            <p className="numbers">
              Picture {countText(place + 1)} of {countText(runs.length)}:{' '}
              {framesInWords(run.startFrame, run.startFrame + run.frames - 1, leaving.plan.firstNumber)}
            </p>
            <Button tight aria-label="Picture after" disabled={place === runs.length - 1} onClick={() => setPlace(place + 1)}>
              <ChevronRight size={14} />
            </Button>
          </div>
          <LoopTimes leaving={leaving} options={options} place={place} />
        </div>
      )}
    </section>
  );
}
