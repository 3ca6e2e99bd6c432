'use client';
import { ChevronDown } from 'lucide-react';
import { useRouter } from 'next/navigation';
import { DropdownMenu } from 'radix-ui';
import { shotsInOrder } from '@/core/reel/reel';
import { plural } from '@/core/time/counts';
import { BACK_TO_SHELF } from '@/core/words';
import { useProject, useShot } from '@/features/project/hooks';
import { goToShot } from '@/features/project/navigation';
import { goToShelf } from '@/features/workspace/goToShelf';
import { Mark } from '@/ui/Mark';

/** After choosing, the arrow keys are for the frames: on the menu's button they would open it again. */
function letFramesHaveKeys(event: Event): void {
  event.preventDefault();
  document.querySelector<HTMLElement>('[role="grid"]')?.focus();
}

/** The project's title and the open shot; the others a press away. */
export function ShotMenu() {
  const project = useProject();
  const shot = useShot();
  const router = useRouter();
  return (
    <div className="flex min-w-0 items-center gap-2.5">
      <a
        href="/"
        aria-label="Shelf"
        title={BACK_TO_SHELF}
        className="shrink-0 rounded-md"
        onClick={(event) => {
          event.preventDefault();
          void goToShelf(() => router.push('/'));
        }}
      >
        <Mark />
      </a>
      <div className="min-w-0">
        <h1 className="truncate font-bold font-head text-base leading-5">{project.title}</h1>
        <DropdownMenu.Root>
          <DropdownMenu.Trigger className="flex max-w-full items-center gap-1 rounded text-soft text-xs hover:text-ink">
            <span className="truncate">{shot ? `Shot ${shot.code}${shot.name ? ` · ${shot.name}` : ''}` : 'No shot'}</span>
            <ChevronDown size={12} className="shrink-0" />
          </DropdownMenu.Trigger>
          <DropdownMenu.Portal>
            <DropdownMenu.Content
              align="start"
              sideOffset={4}
              onCloseAutoFocus={letFramesHaveKeys}
              className="panel z-50 min-w-64 p-1.5 shadow-xl"
            >
              {shotsInOrder(project).map((entry) => (
                <DropdownMenu.Item
                  key={entry.id}
                  onSelect={() => goToShot(entry.id)}
                  className={`flex justify-between gap-4 rounded-lg px-2.5 py-1.5 outline-none data-[highlighted]:bg-lime-wash ${entry.id === shot?.id ? 'font-bold' : ''}`}
                >
                  <span>
                    {entry.code} {entry.name}
                  </span>
                  <span className="numbers text-soft text-xs">{plural(entry.frames, 'frame')}</span>
                </DropdownMenu.Item>
              ))}
            </DropdownMenu.Content>
          </DropdownMenu.Portal>
        </DropdownMenu.Root>
      </div>
    </div>
  );
}
