'use client';
import { Popover } from 'radix-ui';
import { useState } from 'react';
import type { Aside } from '@/contracts/local';
import { drawingById, levelById, type Project, shotById } from '@/core/document/model';
import { plural } from '@/core/time/counts';
import { drawingWords } from '@/core/words';
import { useProject } from '@/features/project/hooks';
import { saveText } from '@/features/project/saveText';
import { Thumb } from '@/features/sheet/Thumb';
import { asideFile, asNewDrawing, discardAside, makeInShotCopy, makeNewDrawing, removedShotOf, tryAgain } from '@/features/sync/aside';
import { useProjectStore } from '@/features/sync/projectStore';
import { Button } from '@/ui/Button';

const PICTURE_PX = 150;

/** The drawing that a picture was set aside for, and the picture it has by now. */
function drawingFor(project: Project, { step }: Aside) {
  if (step?.type !== 'setPicture') return null;
  const shot = shotById(project, step.shotId);
  const level = shot && levelById(shot, step.levelId);
  const drawing = level && drawingById(level, step.drawingId);
  return { mine: step.picture, theirs: drawing?.picture ?? null, name: drawing && level ? drawingWords(level.name, drawing.number) : null };
}

function Pictures({ project, aside }: { project: Project; aside: Aside }) {
  const drawing = drawingFor(project, aside);
  if (!drawing?.mine) return null;
  const picture = (digest: string | null, words: string) => (
    <figure className="min-w-0 flex-1">
      <div className="overflow-hidden rounded border border-line bg-white">
        <Thumb size={project.size} widthPx={PICTURE_PX} layers={digest ? [{ picture: digest, opacityPercent: 100 }] : []} />
      </div>
      <figcaption className="mt-0.5 truncate text-2xs text-soft">{words}</figcaption>
    </figure>
  );
  return (
    <div className="flex gap-2">
      {picture(drawing.mine, 'yours, set aside')}
      {drawing.name ? picture(drawing.theirs, `${drawing.name} as it is now`) : null}
    </div>
  );
}

function AsideCard({ project, aside }: { project: Project; aside: Aside }) {
  const [sure, setSure] = useState(false);
  const removed = removedShotOf(project, aside);
  const drawing = drawingFor(project, aside);
  const save = async () =>
    saveText(await asideFile(aside), `set aside ${aside.asideAt.slice(0, 16).replaceAll(':', '-')}.json`, 'application/json');
  return (
    <li className="space-y-1.5 rounded-lg border border-line p-2.5">
      <p className="font-semibold">{aside.words}</p>
      <p className="text-soft text-xs">{aside.reason}</p>
      <Pictures project={project} aside={aside} />
      <div className="flex flex-wrap gap-1.5">
        {removed && <Button onClick={() => void makeInShotCopy(aside)}>Bring shot {removed.code} back with it</Button>}
        {asNewDrawing(project, aside, () => '') && <Button onClick={() => void makeNewDrawing(aside)}>Make it a new drawing</Button>}
        {aside.step && !removed && (drawing === null || drawing.name !== null) && (
          <Button onClick={() => void tryAgain(aside)}>{drawing?.name ? 'Use mine' : 'Try again'}</Button>
        )}
        <Button onClick={() => void save()}>Save as a file</Button>
        {sure ? (
          <Button kind="warn" onClick={() => void discardAside(aside)}>
            Delete it for good
          </Button>
        ) : (
          <Button kind="quiet" onClick={() => setSure(true)}>
            {drawing?.name ? 'Keep theirs …' : 'Delete …'}
          </Button>
        )}
      </div>
    </li>
  );
}

/** What was made here and is in no document: shown with why, until a person has decided. Nothing when there is none. */
export function SetAside() {
  const project = useProject();
  const aside = useProjectStore((state) => state.aside);
  if (aside.length === 0) return null;
  return (
    <Popover.Root>
      <Popover.Trigger asChild>
        <Button kind="warn" className="shrink-0" data-testid="set-aside">
          Set aside: {aside.length}
        </Button>
      </Popover.Trigger>
      <Popover.Portal>
        <Popover.Content
          align="end"
          sideOffset={6}
          className="panel z-50 max-h-[76vh] w-[360px] space-y-2.5 overflow-y-auto p-3.5 shadow-xl"
        >
          <h2 className="font-bold">{plural(aside.length, 'change')} set aside</h2>
          <p className="text-soft text-xs">
            Made in this browser and not in the film. Each stays here until you decide; nothing is deleted by itself.
          </p>
          <ul className="space-y-2">
            {aside.map((each) => (
              <AsideCard key={each.order} project={project} aside={each} />
            ))}
          </ul>
        </Popover.Content>
      </Popover.Portal>
    </Popover.Root>
  );
}
