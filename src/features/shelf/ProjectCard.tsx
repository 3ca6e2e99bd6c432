import Link from 'next/link';
import type { ShelfEntry } from '@/contracts/project';
import { sizeText } from '@/core/document/size';
import { countText, plural } from '@/core/time/counts';
import { rateName } from '@/core/time/rate';
import { secondsText } from '@/core/time/seconds';
import { Thumb } from '@/features/sheet/Thumb';
import type { ShelfAct } from '@/features/shelf/ProjectMenu';
import { Later, part } from '@/ui/later';
import { useIsHere } from '@/ui/useIsHere';

const projectMenu = part(async () => (await import('@/features/shelf/ProjectMenu')).ProjectMenu);

type Props = { readonly entry: ShelfEntry; readonly hasMenu: boolean; readonly onAct: (act: ShelfAct) => void };

/** A project on the shelf: a real picture of it, its counts, its rate, when it was kept, and what can be done to it. */
export function ProjectCard({ entry, hasMenu, onAct }: Props) {
  return (
    <div className="panel relative outline-ink outline-offset-2 hover:border-edge has-[a:focus-visible]:outline-2">
      <Link href={`/projects/${entry.id}/plan`} className="block focus-visible:outline-none">
        <div className="flex aspect-video items-center justify-center overflow-hidden rounded-t-[11px] border-line border-b bg-desk">
          <div className="w-full">
            <Thumb layers={entry.cover} size={entry.size} widthPx={320} />
          </div>
        </div>
        <div className="space-y-1 p-3.5">
          <h2 className="truncate font-bold font-head text-lg">{entry.title}</h2>
          <p className="numbers text-xs">
            {countText(entry.frames)} fr at {rateName(entry.rate)} = {secondsText(entry.frames, entry.rate)} s
          </p>
          <p className="text-soft text-xs">
            {plural(entry.shots, 'shot')} · {countText(entry.drawn)} of {plural(entry.drawings, 'drawing')} drawn
          </p>
          <p className="text-soft text-xs">
            <span className="whitespace-nowrap">{sizeText(entry.size)}</span> · saved <KeptAt at={entry.keptAt} />
          </p>
        </div>
      </Link>
      <div className="absolute top-2 right-2">{hasMenu && <Later of={projectMenu} props={{ entry, onAct }} />}</div>
    </div>
  );
}

/** When a project was saved, in the language and time zone of whoever looks. The server that writes the page knows neither, so until the page is alive only the room is kept. */
function KeptAt({ at }: { readonly at: string }) {
  const isHere = useIsHere();
  if (!isHere) return <time className="invisible">{at.slice(0, 19)}</time>;
  return <time dateTime={at}>{new Date(at).toLocaleString(undefined, { dateStyle: 'medium', timeStyle: 'short' })}</time>;
}
