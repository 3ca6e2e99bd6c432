'use client';
import Link from 'next/link';
import { useRouter } from 'next/navigation';
import { startTransition, useCallback, useEffect, useState } from 'react';
import type { ShelfEntry } from '@/contracts/project';
import { STOP } from '@/core/words';
import { HelpHere } from '@/features/help/HelpHere';
import { beginTourOnce } from '@/features/help/tourStore';
import { BringPackage } from '@/features/shelf/BringPackage';
import type { Begun } from '@/features/shelf/begun';
import type { ShelfAct } from '@/features/shelf/ProjectMenu';
import { type FirstShelf, ShelvedProjects } from '@/features/shelf/ShelvedProjects';
import { useShelfEntries } from '@/features/shelf/useShelfEntries';
import { openDemo } from '@/features/sync/api';
import { serverRetryer } from '@/features/sync/server';
import { Button } from '@/ui/Button';
import { DropHere } from '@/ui/DropHere';
import { LookChoice } from '@/ui/LookChoice';
import { Later, loadAllParts, part } from '@/ui/later';
import { Mark } from '@/ui/Mark';
import { toast } from '@/ui/toast';
import { useDroppedFiles } from '@/ui/useDroppedFiles';

const newProject = part(async () => (await import('@/features/shelf/NewProject')).NewProject);

const storeLine = part(async () => (await import('@/features/shelf/StoreLine')).StoreLine);
const renameProject = part(async () => (await import('@/features/shelf/RenameProject')).RenameProject);
const deleteProject = part(async () => (await import('@/features/shelf/DeleteProject')).DeleteProject);

/** Home: every project as a card; start one, or open the demo. */
export function Shelf({ first }: { readonly first: FirstShelf }) {
  const router = useRouter();
  const { entries, failure, isAskedAgain, load } = useShelfEntries();
  const [starting, setStarting] = useState(false);
  const [making, setMaking] = useState(false);
  const isShown = entries !== null;
  const [isCalm, setCalm] = useState(false);
  useEffect(() => {
    if (isShown) return loadAllParts(() => startTransition(() => setCalm(true)));
  }, [isShown]);

  const [begun, setBegun] = useState<Begun | null>(null);
  const [droppedPackage, setDroppedPackage] = useState<File | null>(null);
  const take = useCallback((files: readonly File[]) => {
    const [first] = files;
    if (files.length === 1 && first && /\.(limetick|zip)$/i.test(first.name)) {
      setDroppedPackage(first);
      return;
    }
    const own = new AbortController();
    const tell = (part: number) =>
      toast.loading(`Looking at what was dropped: ${Math.round(part * 100)} %`, {
        id: 'dropped',
        duration: Number.POSITIVE_INFINITY,
        action: { label: STOP, onClick: () => own.abort() },
      });
    tell(0);
    import('@/features/shelf/begun')
      .then(({ beginWith }) => beginWith(files, tell, own.signal))
      .then(
        (found) => {
          setBegun(found);
          setStarting(true);
        },
        (error: unknown) => {
          if (!own.signal.aborted) toast.error(error instanceof Error ? error.message : 'These files could not be read.');
        },
      )
      .finally(() => toast.dismiss('dropped'));
  }, []);
  const isDraggedOver = useDroppedFiles(take);

  const demo = () => {
    setMaking(true);
    openDemo()
      .then(({ id }) => {
        beginTourOnce();
        router.push(`/projects/${id}/plan`);
      })
      .catch((error: unknown) => {
        setMaking(false);
        toast.error(error instanceof Error ? error.message : 'The demo could not be made.');
      });
  };

  const [asked, setAsked] = useState<{ readonly act: 'rename' | 'delete'; readonly entry: ShelfEntry } | null>(null);
  const act = (entry: ShelfEntry, what: ShelfAct) => {
    if (what === 'rename' || what === 'delete') setAsked({ act: what, entry });
    else if (what === 'past') router.push(`/projects/${entry.id}/past`);
    else void import('@/features/shelf/shelfActs').then(({ actOnShelf }) => actOnShelf(entry, what, load));
  };
  const done = () => {
    setAsked(null);
    load();
  };

  return (
    <main className="mx-auto flex h-full max-w-6xl flex-col gap-6 overflow-y-auto p-8">
      <header className="flex flex-wrap items-center gap-4">
        <Mark size={44} />
        <div>
          <h1 className="font-bold font-head text-3xl leading-8">Lime Tick</h1>
          <p className="text-base text-soft">Frame-by-frame animation whose count is proved from plan to file.</p>
        </div>
        <div className="ml-auto flex flex-wrap gap-2">
          <HelpHere page={entries?.length ? 'store' : 'begin'} isCalm={isCalm} className="min-h-9 px-4" />
          <Link
            href="/counting-desk"
            title="Any film, sequence or sound, counted frame by frame"
            className="inline-flex min-h-9 items-center rounded-lg border border-line bg-sunk px-4 font-semibold text-xs hover:border-edge"
          >
            Count a file
          </Link>
          <BringPackage dropped={droppedPackage} />
          <Button onClick={demo} disabled={making} className="min-h-9 px-4 text-sm">
            {making ? 'Drawing Washday …' : 'Open the demo'}
          </Button>
          <Button
            kind="go"
            onClick={() => {
              setBegun(null);
              setStarting(true);
            }}
            className="min-h-9 px-4 text-sm"
          >
            New project
          </Button>
        </div>
      </header>
      {failure && (
        <div role="alert" className="panel flex flex-wrap items-center gap-3 p-4">
          <p className="text-rust">{failure}</p>
          {isAskedAgain && <p className="text-soft">Lime Tick keeps trying by itself.</p>}
          <Button onClick={isAskedAgain ? () => serverRetryer.wake() : load}>Try now</Button>
        </div>
      )}
      <ShelvedProjects first={first} entries={entries} hasMenus={isCalm} onAct={act} />
      <footer className="mt-auto flex flex-wrap items-center justify-between gap-3 border-line border-t pt-4">
        <LookChoice />
        {isCalm && <Later of={storeLine} props={{}} />}
      </footer>
      {asked?.act === 'rename' && (
        <Later of={renameProject} props={{ entry: asked.entry, onDone: done, onClose: () => setAsked(null) }} isWindow />
      )}
      {asked?.act === 'delete' && (
        <Later of={deleteProject} props={{ entry: asked.entry, onDone: done, onClose: () => setAsked(null) }} isWindow />
      )}
      {isDraggedOver && <DropHere words="Drop to begin a project with these" />}
      {(starting || isCalm) && <Later of={newProject} props={{ open: starting, onOpenChange: setStarting, begun }} />}
    </main>
  );
}
