'use client';
import Link from 'next/link';
import { useRouter } from 'next/navigation';
import { useCallback, useEffect, useState } from 'react';
import type { ShelfEntry } from '@/contracts/project';
import { STOP } from '@/core/words';
import { beginTourOnce } from '@/features/help/tourStore';
import { BringPackage } from '@/features/shelf/BringPackage';
import type { Begun } from '@/features/shelf/begun';
import { ProjectCard } from '@/features/shelf/ProjectCard';
import type { ShelfAct } from '@/features/shelf/ProjectMenu';
import { ShelfBar, type ShelfView } from '@/features/shelf/ShelfBar';
import { foundOnShelf, inShelfOrder } from '@/features/shelf/shelfOrder';
import { fetchShelf, openDemo } from '@/features/sync/api';
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
export function Shelf() {
  const router = useRouter();
  const [entries, setEntries] = useState<readonly ShelfEntry[] | null>(null);
  const [failure, setFailure] = useState<string | null>(null);
  const [starting, setStarting] = useState(false);
  const [making, setMaking] = useState(false);
  const load = useCallback(() => {
    fetchShelf().then(setEntries, (error: unknown) => setFailure(error instanceof Error ? error.message : 'The server doesn’t answer.'));
  }, []);
  useEffect(load, [load]);
  const isShown = entries !== null;
  const [isCalm, setCalm] = useState(false);
  useEffect(() => {
    if (isShown) return loadAllParts(() => setCalm(true));
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

  const [view, setView] = useState<ShelfView>({ wanted: '', order: 'saved', isPutAway: false });
  const there = entries?.filter(({ putAwayAt }) => (putAwayAt !== null) === view.isPutAway) ?? [];
  const shown = inShelfOrder(foundOnShelf(there, view.wanted), view.order);
  const putAway = entries?.filter(({ putAwayAt }) => putAwayAt !== null).length ?? 0;
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
        <p role="alert" className="panel p-4 text-rust">
          {failure} Start Lime Tick again and reload this page.
        </p>
      )}
      {entries?.length === 0 && (
        <section className="panel max-w-2xl p-6 text-base">
          <h2 className="font-bold font-head text-xl">Nothing on the shelf yet</h2>
          <p className="mt-2 text-soft">
            Start a project with its size, rate and length, or open <em>Washday</em>, a short film of a windy clothesline with a few faults
            left in it for you to find. Pictures, a film or a package can be dropped here, too.
          </p>
        </section>
      )}
      {entries && entries.length > 0 && (
        <ShelfBar view={view} onChange={setView} shown={shown.length} all={there.length} putAway={putAway} />
      )}
      <ul className="grid grid-cols-[repeat(auto-fill,minmax(250px,1fr))] gap-4" aria-label="Projects">
        {shown.map((entry) => (
          <li key={entry.id}>
            <ProjectCard entry={entry} hasMenu={isCalm} onAct={(what) => act(entry, what)} />
          </li>
        ))}
      </ul>
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
