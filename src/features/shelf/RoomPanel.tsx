import Link from 'next/link';
import type { StoreState } from '@/contracts/keep';
import { bytesText } from '@/core/bytes';
import { countText } from '@/core/time/counts';

const LITTLE_ROOM_BYTES = 2 * 1024 ** 3;

/** Where everything lies, and how much each project takes of it. */
export function RoomPanel({ state }: { state: StoreState }) {
  const { place, database, disk } = state;
  const projects = [...state.projects].sort((a, b) => b.bytes - a.bytes);
  const most = Math.max(1, ...projects.map(({ bytes }) => bytes));
  return (
    <section className="panel p-4" aria-labelledby="room">
      <h2 id="room" className="font-bold font-head text-lg">
        Room
      </h2>
      <dl className="mt-2 grid grid-cols-[max-content_minmax(0,1fr)] gap-x-4 gap-y-1 text-sm">
        <dt className="text-soft">Lies in</dt>
        <dd className="numbers break-all">{place}</dd>
        <dt className="text-soft">The database has</dt>
        <dd className="numbers">{bytesText(database.sizeBytes)}</dd>
        {disk && (
          <>
            <dt className="text-soft">The disk has left</dt>
            <dd className={`numbers ${disk.freeBytes < LITTLE_ROOM_BYTES ? 'text-rust' : ''}`}>
              {bytesText(disk.freeBytes)} of {bytesText(disk.totalBytes)}
              {disk.freeBytes < LITTLE_ROOM_BYTES && ' — little: free some before you draw on'}
            </dd>
          </>
        )}
      </dl>
      <h3 className="mt-4 font-semibold text-sm">{countText(projects.length)} projects, the largest first</h3>
      <p className="text-soft text-xs">
        What a project takes: its pictures, files that were brought in, and its past. What two share is in both.
      </p>
      <ul className="mt-2 max-h-72 space-y-1 overflow-y-auto">
        {projects.map(({ id, title, bytes, watchers }) => (
          <li key={id} className="grid grid-cols-[minmax(0,1fr)_90px_80px] items-center gap-3 text-sm">
            <Link
              href={`/projects/${id}/plan`}
              className="ring-within truncate px-1 py-0.5 leading-5 underline decoration-line hover:decoration-ink"
            >
              {title}
              {watchers > 0 && (
                <span className="text-soft"> · open in {watchers === 1 ? 'a window' : `${countText(watchers)} windows`}</span>
              )}
            </Link>
            <span className="h-2 overflow-hidden rounded-sm bg-sunk" aria-hidden="true">
              <span className="block h-full bg-edge" style={{ width: `${(bytes / most) * 100}%` }} />
            </span>
            <span className="numbers text-right text-xs">{bytesText(bytes)}</span>
          </li>
        ))}
      </ul>
    </section>
  );
}
