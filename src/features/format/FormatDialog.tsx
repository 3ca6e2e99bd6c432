'use client';
import { useRef, useState } from 'react';
import { withPath } from '@/core/chart/chartTicks';
import { chartsWithPath } from '@/core/chart/markers';
import { carriedPath } from '@/core/chart/path';
import type { Project } from '@/core/document/model';
import { sameSize, sizeText } from '@/core/document/size';
import type { Step } from '@/core/edit/step';
import { type PlacementMode, placeOn } from '@/core/raster/placing';
import { plural } from '@/core/time/counts';
import { CANCEL, STOP } from '@/core/words';
import { useFormatStore } from '@/features/format/formatStore';
import { chosenFrom, SizeFields, sizeChosen } from '@/features/format/SizeFields';
import { take } from '@/features/project/editContext';
import { useProject } from '@/features/project/hooks';
import { drawnPictures, layAnew } from '@/features/project/layAnew';
import { settled } from '@/features/sync/settling';
import { Button } from '@/ui/Button';
import { Choice } from '@/ui/Choice';
import { Dialog } from '@/ui/Dialog';
import { Field } from '@/ui/Field';

const LAYINGS: readonly { value: PlacementMode; label: string; title: string }[] = [
  { value: 'asIs', label: 'as they are, in the middle', title: 'No pixel is resampled; what is outside is cut off, what is new is empty' },
  { value: 'fit', label: 'to fit', title: 'Larger or smaller until all of it is in the picture' },
  { value: 'fill', label: 'to fill', title: 'Larger or smaller until the picture is full; two sides may be cut' },
];

type Progress = { readonly done: number; readonly of: number; readonly stop: AbortController };

/** Ways drawn on the pictures are carried along with them. */
function pathSteps(project: Project, size: Project['size'], laying: PlacementMode): readonly Step[] {
  if (sameSize(size, project.size)) return [];
  const placed = placeOn(project.size, size, laying);
  return project.shots.flatMap((shot) =>
    shot.levels.flatMap((level): Step[] => {
      if (chartsWithPath(level).length === 0) return [];
      const charts = level.charts.map((chart) => withPath(chart, carriedPath(chart.path, project.size, placed)));
      return [{ type: 'setCharts', shotId: shot.id, levelId: level.id, charts }];
    }),
  );
}

/** The edit of a new format: size with every picture laid anew, and the first frame's number. */
function stepOf(
  project: Project,
  laid: ReadonlyMap<string, string | null>,
  size: Project['size'],
  laying: PlacementMode,
  firstFrameNumber: number,
): Step {
  const pictures = project.shots.flatMap((shot) =>
    shot.levels.flatMap((level) =>
      level.drawings.flatMap((drawing): Step[] => {
        const picture = drawing.picture === null ? undefined : laid.get(drawing.picture);
        return picture === undefined || picture === drawing.picture
          ? []
          : [{ type: 'setPicture', shotId: shot.id, levelId: level.id, drawingId: drawing.id, picture }];
      }),
    ),
  );
  return {
    type: 'together',
    words: sameSize(size, project.size) ? `First frame ${firstFrameNumber}` : `Size ${sizeText(size)}`,
    steps: [
      {
        type: 'setFormat',
        ...(sameSize(size, project.size) ? {} : { size }),
        ...(firstFrameNumber === project.firstFrameNumber ? {} : { firstFrameNumber }),
      },
      ...pictures,
      ...pathSteps(project, size, laying),
    ],
  };
}

function Changing({ onClose }: { onClose: () => void }) {
  const project = useProject();
  const [chosen, setChosen] = useState(() => chosenFrom(project.size));
  const [laying, setLaying] = useState<PlacementMode>('fit');
  const [startText, setStartText] = useState(String(project.firstFrameNumber));
  const [progress, setProgress] = useState<Progress | null>(null);
  const [trouble, setTrouble] = useState<string | null>(null);
  const latest = useRef(project);
  latest.current = project;
  const size = sizeChosen(chosen);
  const firstFrameNumber = /^\d{1,6}$/.test(startText.trim()) ? Number(startText) : null;
  const newSize = size.ok && !sameSize(size.value, project.size);
  const pictures = drawnPictures(project).size;
  const changes = newSize || (firstFrameNumber !== null && firstFrameNumber !== project.firstFrameNumber);

  const change = async () => {
    if (!size.ok || firstFrameNumber === null) return;
    await settled();
    const stop = new AbortController();
    const before = latest.current;
    setTrouble(null);
    try {
      const laid = newSize
        ? await layAnew(drawnPictures(before), size.value, laying, stop.signal, (done, of) => setProgress({ done, of, stop }))
        : new Map<string, string | null>();
      if (latest.current !== before) setTrouble('The film was changed meanwhile: nothing was taken. Change the size again.');
      else if (
        take(
          {
            ok: true,
            value: {
              step: stepOf(before, laid, size.value, laying, firstFrameNumber),
              says: newSize ? `Size ${sizeText(size.value)}` : `First frame ${firstFrameNumber}`,
            },
          },
          true,
        )
      )
        onClose();
    } catch (error) {
      if (!stop.signal.aborted)
        setTrouble(`The pictures could not be resized: ${error instanceof Error ? error.message : 'unknown reason'} Nothing was changed.`);
    } finally {
      setProgress(null);
    }
  };

  return (
    <div className="mt-3 space-y-3">
      <SizeFields chosen={chosen} onChange={setChosen} />
      {newSize && pictures > 0 && (
        <div className="space-y-1.5">
          <p className="text-xs">
            {plural(pictures, 'drawn picture')} of {sizeText(project.size)} will be resized to {sizeText(size.value)}, and motion paths
            drawn for charts with them; exposures stay as they are. Undo brings the old ones back.
          </p>
          <Choice label="How drawn pictures are fitted" value={laying} options={LAYINGS} onChange={setLaying} />
        </div>
      )}
      <Field
        label="Number of the first frame"
        inputMode="numeric"
        value={startText}
        onChange={setStartText}
        said={
          firstFrameNumber !== null && firstFrameNumber !== project.firstFrameNumber
            ? `The frame numbered ${project.firstFrameNumber} now will be numbered ${firstFrameNumber}; nothing moves.`
            : undefined
        }
        wrong={firstFrameNumber === null ? 'Write a whole number, as 1, 0 or 1001.' : undefined}
      />
      {trouble && (
        <p role="alert" className="text-rust text-xs">
          {trouble}
        </p>
      )}
      {progress ? (
        <div className="flex items-center gap-3">
          <progress className="h-2 flex-1 accent-lime" value={progress.done} max={progress.of} aria-label="Pictures resized" />
          <span className="numbers text-xs">
            {progress.done} of {progress.of}
          </span>
          <Button onClick={() => progress.stop.abort()}>{STOP}</Button>
        </div>
      ) : (
        <div className="flex justify-end gap-2">
          <Button kind="quiet" onClick={onClose}>
            {CANCEL}
          </Button>
          <Button kind="go" disabled={!changes || !size.ok || firstFrameNumber === null} onClick={() => void change()}>
            Change
          </Button>
        </div>
      )}
    </div>
  );
}

/** The window for another picture size or first frame number, with what it brings with it. */
export function FormatDialog() {
  const open = useFormatStore((state) => state.open === 'format');
  const close = () => useFormatStore.setState({ open: null });
  return (
    <Dialog
      title="Size and first frame"
      about="They hold for every shot of the film. The rate has a window of its own."
      open={open}
      onOpenChange={(next) => !next && close()}
    >
      <Changing onClose={close} />
    </Dialog>
  );
}
