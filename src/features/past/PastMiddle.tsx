'use client';
import { useMemo } from 'react';
import type { Project, Shot } from '@/core/document/model';
import { compareProjects, type ShotComparison } from '@/core/past/comparing';
import { layerOf, leavingLevels, type StackLayer } from '@/core/render/stacks';
import { drawingShownAt } from '@/core/sheet/reading';
import { plural } from '@/core/time/counts';
import { PastSheet } from '@/features/past/PastSheet';
import { holdAgainst, useHeld, usePastStore } from '@/features/past/pastStore';
import { Thumb } from '@/features/sheet/Thumb';
import { Slider } from '@/ui/Slider';

const STATES: Readonly<Record<ShotComparison['state'], string>> = { same: 'the same', changed: 'changed', gone: 'gone', new: 'new' };

/** What a shot's levels show on a frame, and its pictures leave. */
const layersAt = (shot: Shot | undefined, frame: number): readonly StackLayer[] =>
  shot && frame < shot.frames
    ? leavingLevels(shot).flatMap((level) => {
        const picture = drawingShownAt(level, frame)?.picture;
        return picture ? [layerOf(level, picture)] : [];
      })
    : [];

/** A frame as it was or is. */
function Side({ title, project, shot, frame }: { title: string; project: Project; shot: Shot | undefined; frame: number }) {
  const isThere = shot !== undefined && frame < shot.frames;
  return (
    <figure className="min-w-0">
      <figcaption className="mb-1 flex items-baseline justify-between gap-2 text-sm">
        <b>{title}</b>
        <span className="numbers text-soft text-xs">{shot ? plural(shot.frames, 'frame') : 'no such shot'}</span>
      </figcaption>
      <div className="overflow-hidden rounded-lg border border-line bg-desk">
        {isThere ? (
          <Thumb
            layers={layersAt(shot, frame)}
            size={project.size}
            widthPx={480}
            label={`${title}, frame ${frame + project.firstFrameNumber}`}
          />
        ) : (
          <p
            className="flex items-center justify-center p-3 text-center text-soft text-sm"
            style={{ aspectRatio: `${project.size.width} / ${project.size.height}` }}
          >
            {shot ? 'The shot is over here.' : 'There is no such shot.'}
          </p>
        )}
      </div>
    </figure>
  );
}

function ShotChips({ shots, shownId }: { shots: readonly ShotComparison[]; shownId: string | undefined }) {
  return (
    <ul className="flex flex-wrap gap-1.5" aria-label="Shots">
      {shots.map(({ shotId, code, state }) => (
        <li key={shotId}>
          <button
            type="button"
            aria-pressed={shotId === shownId}
            onClick={() => usePastStore.setState({ shotId, frame: 0 })}
            className={`min-h-7 rounded-lg border px-2.5 text-xs ${shotId === shownId ? 'border-ink bg-ink text-paper' : 'border-line bg-sunk hover:border-edge'}`}
          >
            <b className="numbers">{code}</b>{' '}
            <span className={state === 'same' || shotId === shownId ? '' : 'font-semibold text-rust'}>{STATES[state]}</span>
          </button>
        </li>
      ))}
    </ul>
  );
}

/** What the chosen moment is held against: today, or a moment that has a name. */
function Against() {
  const { past, against, chosen } = usePastStore();
  return (
    <label className="flex items-center gap-2 text-xs">
      <span className="text-soft">held against</span>
      <select
        value={String(against)}
        onChange={(event) => void holdAgainst(event.target.value === 'today' ? 'today' : Number(event.target.value))}
        className="min-h-8 rounded-lg border border-line bg-paper px-2 hover:border-edge"
      >
        <option value="today">today</option>
        {past?.named.map(({ revision, name }) => (
          <option key={revision} value={revision} disabled={revision === chosen}>
            {name}
          </option>
        ))}
      </select>
    </label>
  );
}

/** The chosen moment beside what it is held against: the picture of a frame and the sheet, what differs marked. */
export function PastMiddle() {
  const held = useHeld();
  const { past, chosen, against, shotId, frame } = usePastStore();
  const compared = useMemo(() => (held ? compareProjects(held.was, held.is) : null), [held]);
  const named = (revision: number) => past?.named.find((each) => each.revision === revision)?.name;
  if (!held || !compared)
    return (
      <section className="panel flex h-full items-center justify-center p-4" aria-label="Then and now">
        <p className="text-soft">{chosen === null ? 'Choose a moment.' : 'Opening the moment …'}</p>
      </section>
    );
  const shown =
    compared.shots.find((shot) => shot.shotId === shotId) ?? compared.shots.find(({ state }) => state !== 'same') ?? compared.shots[0];
  const frames = Math.max(shown?.counts.was.frames ?? 0, shown?.counts.is.frames ?? 0, 1);
  const at = Math.min(frame, frames - 1);
  const title = chosen === null ? '' : (named(chosen) ?? `Revision ${chosen}`);
  const other = against === 'today' ? 'Today' : (named(against) ?? `Revision ${against}`);
  return (
    <section className="panel flex h-full flex-col gap-2.5 overflow-hidden p-3" aria-label="Then and now">
      <div className="flex flex-wrap items-center gap-x-3 gap-y-1">
        <h2 className="font-bold font-head text-lg">{title}</h2>
        <Against />
      </div>
      <ShotChips shots={compared.shots} shownId={shown?.shotId} />
      {shown && (
        <>
          <div className="grid grid-cols-2 gap-3">
            <Side title={title} project={held.was} shot={shown.shots.was} frame={at} />
            <Side title={other} project={held.is} shot={shown.shots.is} frame={at} />
          </div>
          <div className="grid grid-cols-[6.5rem_minmax(0,1fr)] items-center gap-3">
            <span className="numbers text-xs">
              frame {at + held.is.firstFrameNumber} of {frames}
            </span>
            <Slider label="Frame" value={at} min={0} max={frames - 1} onChange={(next) => usePastStore.setState({ frame: next })} />
          </div>
          <PastSheet compared={shown} frames={frames} frame={at} firstNumber={held.is.firstFrameNumber} />
        </>
      )}
    </section>
  );
}
