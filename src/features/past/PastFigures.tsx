'use client';
import { useRouter } from 'next/navigation';
import { useMemo, useState } from 'react';
import { type Counts, compareProjects, type LevelComparison, type OtherDrawing, type ShotComparison } from '@/core/past/comparing';
import type { PastChange } from '@/core/past/sittings';
import { takeOutAll, takeOutDrawing, takeOutLevel, takeOutShot } from '@/core/past/takeOut';
import { countText, plural } from '@/core/time/counts';
import { type Held, nameMoment, useHeld, usePastStore } from '@/features/past/pastStore';
import { takeOut, undoChange } from '@/features/past/takingOut';
import { projectOfMoment } from '@/features/sync/pastApi';
import { reasonOf } from '@/features/sync/reasonOf';
import { Button } from '@/ui/Button';
import { CommitField } from '@/ui/Field';
import { toast } from '@/ui/toast';

type Row = { readonly words: string; readonly was: number; readonly is: number };

const rowsOf = (was: Counts, is: Counts): readonly Row[] => [
  { words: 'frames', was: was.frames, is: is.frames },
  { words: 'drawings', was: was.drawings, is: is.drawings },
  { words: 'drawn', was: was.drawn, is: is.drawn },
];

function CountTable({ caption, rows }: { caption: string; rows: readonly Row[] }) {
  return (
    <table className="w-full text-xs">
      <caption className="text-left font-semibold text-sm">{caption}</caption>
      <thead>
        <tr className="text-soft">
          <th className="text-left font-normal">
            <span className="sr-only">what</span>
          </th>
          <th className="w-14 text-right font-normal">then</th>
          <th className="w-14 text-right font-normal">now</th>
          <th className="w-16 text-right font-normal">
            <span className="sr-only">difference</span>
          </th>
        </tr>
      </thead>
      <tbody className="numbers">
        {rows.map(({ words, was, is }) => (
          <tr key={words}>
            <th className="text-left font-normal font-sans">{words}</th>
            <td className="text-right">{countText(was)}</td>
            <td className="text-right">{countText(is)}</td>
            <td className={`text-right ${was === is ? 'text-soft' : 'text-rust'}`}>
              {was === is ? '=' : `${is > was ? '+' : '−'}${countText(Math.abs(is - was))}`}
            </td>
          </tr>
        ))}
      </tbody>
    </table>
  );
}

/** What became of a drawing. */
function drawingWords({ was, is }: OtherDrawing): string {
  if (!was) return 'new';
  if (!is) return 'gone';
  if (was.picture !== is.picture) return is.picture === null ? 'drawn then, not now' : was.picture === null ? 'not drawn then' : 'redrawn';
  if (was.number !== is.number) return `number ${was.number} became ${is.number}`;
  return 'another role';
}

const MOST_DRAWINGS = 60;

function LevelLines({ held, shotId, level }: { held: Held; shotId: string; level: LevelComparison }) {
  const { levelId, name, state, frames, drawings } = level;
  const otherFrames = frames.reduce((sum, { fromFrame, toFrame }) => sum + toFrame - fromFrame, 0);
  return (
    <li className="space-y-1 border-line border-t pt-1.5">
      <div className="flex items-start gap-2">
        <p className="min-w-0 flex-1 text-xs">
          <b>{name}</b>{' '}
          {state === 'gone'
            ? 'is gone'
            : state === 'new'
              ? 'is new'
              : otherFrames > 0
                ? `shows others on ${plural(otherFrames, 'frame')}`
                : 'changed'}
        </p>
        {state !== 'new' && (
          <Button
            tight
            onClick={() => takeOut(takeOutLevel(held.was, held.is, shotId, levelId))}
            title={`Put ${name} back as it was; it can be undone`}
          >
            Take out
          </Button>
        )}
      </div>
      <ul className="space-y-0.5 pl-2">
        {drawings.slice(0, MOST_DRAWINGS).map((drawing) => (
          <li key={drawing.drawingId} className="flex items-center gap-2 text-xs">
            <span className="min-w-0 flex-1 truncate">
              drawing <span className="numbers">{drawing.number}</span>: {drawingWords(drawing)}
            </span>
            {drawing.was?.picture && drawing.was.picture !== drawing.is?.picture && (
              <Button
                tight
                kind="quiet"
                onClick={() => takeOut(takeOutDrawing(held.was, held.is, shotId, levelId, drawing.drawingId))}
                title={`Bring drawing ${drawing.number} back as it was; it can be undone`}
              >
                Take out
              </Button>
            )}
          </li>
        ))}
        {drawings.length > MOST_DRAWINGS && (
          <li className="text-soft text-xs">and {plural(drawings.length - MOST_DRAWINGS, 'drawing')} more</li>
        )}
      </ul>
    </li>
  );
}

function ShotLines({ held, shot, isToday }: { held: Held; shot: ShotComparison; isToday: boolean }) {
  const changed = shot.levels.filter(({ state }) => state !== 'same');
  return (
    <div className="space-y-1.5">
      <CountTable caption={`Shot ${shot.code}`} rows={rowsOf(shot.counts.was, shot.counts.is)} />
      {isToday && shot.state !== 'same' && shot.state !== 'new' && (
        <Button onClick={() => takeOut(takeOutShot(held.was, held.is, shot.shotId))} title="The whole shot as it was; it can be undone">
          Take out shot {shot.code}
        </Button>
      )}
      {isToday ? (
        <ul className="space-y-1.5">
          {changed.map((level) => (
            <LevelLines key={level.levelId} held={held} shotId={shot.shotId} level={level} />
          ))}
        </ul>
      ) : null}
      {shot.state === 'changed' && changed.length === 0 && (
        <p className="text-soft text-xs">Its name, its notes, its sounds or its length.</p>
      )}
    </div>
  );
}

/** The changes of the chosen moment, each of which can be undone by itself. */
function Changes({ changes, projectId }: { changes: readonly PastChange[]; projectId: string }) {
  return (
    <div>
      <h3 className="font-semibold text-sm">What was done in this moment</h3>
      <ul className="mt-1 max-h-40 space-y-0.5 overflow-y-auto">
        {changes.toReversed().map(({ revision, words }) => (
          <li key={revision} className="flex items-center gap-2 text-xs">
            <span className="min-w-0 flex-1 truncate" title={words}>
              {words}
            </span>
            <Button tight kind="quiet" aria-label={`Undo ${words}`} onClick={() => void undoChange(projectId, revision)}>
              Undo
            </Button>
          </li>
        ))}
      </ul>
    </div>
  );
}

/** Counts then and now, and what can be taken out of the moment. */
export function PastFigures() {
  const router = useRouter();
  const held = useHeld();
  const { projectId, past, chosen, against, shotId, moments } = usePastStore();
  const [isBusy, setBusy] = useState(false);
  const compared = useMemo(() => (held ? compareProjects(held.was, held.is) : null), [held]);
  if (!held || !compared || chosen === null || projectId === null) return <section className="panel h-full p-3" aria-label="The moment" />;
  const name = past?.named.find(({ revision }) => revision === chosen)?.name ?? '';
  const isToday = against === 'today';
  const moment = [...moments.values()].flat().find(({ revision }) => revision === chosen);
  const shown =
    compared.shots.find((shot) => shot.shotId === shotId) ?? compared.shots.find(({ state }) => state !== 'same') ?? compared.shots[0];
  const asProject = () => {
    setBusy(true);
    projectOfMoment(projectId, chosen).then(
      (id) => router.push(`/projects/${id}/plan`),
      (error: unknown) => {
        setBusy(false);
        toast.error(reasonOf(error));
      },
    );
  };
  const { was, is } = compared.counts;
  return (
    <section className="panel flex h-full flex-col gap-3 overflow-y-auto p-3" aria-label="The moment">
      <CommitField
        label="Name of this moment, as “before the retake”"
        value={name}
        maxLength={80}
        onCommit={(text) => text.trim() !== name && void nameMoment(chosen, text.trim() === '' ? null : text.trim())}
      />
      <CountTable caption="The film" rows={[{ words: 'shots', was: was.shots, is: is.shots }, ...rowsOf(was, is)]} />
      <div className="flex flex-wrap gap-1.5">
        {isToday && (
          <Button
            onClick={() => takeOut(takeOutAll(held.was, held.is, `As at ${name || `revision ${chosen}`}`))}
            title="Everything as it was; it can be undone"
          >
            Go back to all of it
          </Button>
        )}
        <Button onClick={asProject} disabled={isBusy}>
          {isBusy ? 'Making it …' : 'As a new project'}
        </Button>
      </div>
      {shown && <ShotLines held={held} shot={shown} isToday={isToday} />}
      {moment && <Changes changes={moment.changes} projectId={projectId} />}
    </section>
  );
}
