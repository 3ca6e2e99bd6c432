'use client';
import { Suspense, use, useState } from 'react';
import type { ShelfEntry } from '@/contracts/project';
import { ProjectCard } from '@/features/shelf/ProjectCard';
import type { ShelfAct } from '@/features/shelf/ProjectMenu';
import { ShelfBar, type ShelfView } from '@/features/shelf/ShelfBar';
import { foundOnShelf, inShelfOrder } from '@/features/shelf/shelfOrder';

/** The projects the server wrote into the page; null where it could not tell them. */
export type FirstShelf = Promise<readonly ShelfEntry[] | null>;

type Props = {
  readonly first: FirstShelf;
  /** The projects as this page was told them last; null until it was. */
  readonly entries: readonly ShelfEntry[] | null;
  readonly hasMenus: boolean;
  readonly onAct: (entry: ShelfEntry, act: ShelfAct) => void;
};

/** The projects that are shown, as cards; those the page came with until it has asked itself. */
export function ShelvedProjects(props: Props) {
  return (
    <Suspense fallback={<p className="comes-late text-soft">Reading the shelf …</p>}>
      <Cards {...props} />
    </Suspense>
  );
}

function Cards({ first, entries: told, hasMenus, onAct }: Props) {
  const [view, setView] = useState<ShelfView>({ wanted: '', order: 'saved', isPutAway: false });
  const entries = told ?? use(first);
  const there = entries?.filter(({ putAwayAt }) => (putAwayAt !== null) === view.isPutAway) ?? [];
  const shown = inShelfOrder(foundOnShelf(there, view.wanted), view.order);
  const putAway = entries?.filter(({ putAwayAt }) => putAwayAt !== null).length ?? 0;
  return (
    <>
      {entries?.length === 0 && (
        <section className="panel max-w-2xl shrink-0 p-6 text-base">
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
            <ProjectCard entry={entry} hasMenu={hasMenus} onAct={(what) => onAct(entry, what)} />
          </li>
        ))}
      </ul>
    </>
  );
}
