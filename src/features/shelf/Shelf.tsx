'use client';
import Link from 'next/link';
import { useRouter } from 'next/navigation';
import { useCallback, useEffect, useState } from 'react';
import { toast } from 'sonner';
import type { ShelfEntry } from '@/contracts/project';
import { STOP } from '@/core/words';
import { beginTourOnce } from '@/features/help/tourStore';
import { BringPackage } from '@/features/shelf/BringPackage';
import type { Begun } from '@/features/shelf/begun';
import { ProjectCard } from '@/features/shelf/ProjectCard';
import { fetchShelf, openDemo } from '@/features/sync/api';
import { Button } from '@/ui/Button';
import { DropHere } from '@/ui/DropHere';
import { LookChoice } from '@/ui/LookChoice';
import { Later, loadAllParts, part } from '@/ui/later';
import { Mark } from '@/ui/Mark';
import { useDroppedFiles } from '@/ui/useDroppedFiles';

const newProject = part(async () => (await import('@/features/shelf/NewProject')).NewProject);

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
      <ul className="grid grid-cols-[repeat(auto-fill,minmax(250px,1fr))] gap-4" aria-label="Projects">
        {entries?.map((entry) => (
          <li key={entry.id}>
            <ProjectCard entry={entry} />
          </li>
        ))}
      </ul>
      <footer className="mt-auto border-line border-t pt-4">
        <LookChoice />
      </footer>
      {isDraggedOver && <DropHere words="Drop to begin a project with these" />}
      {(starting || isCalm) && <Later of={newProject} props={{ open: starting, onOpenChange: setStarting, begun }} />}
    </main>
  );
}
