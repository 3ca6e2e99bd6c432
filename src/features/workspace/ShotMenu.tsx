'use client';
import { useVirtualizer } from '@tanstack/react-virtual';
import { ChevronDown } from 'lucide-react';
import { useRouter } from 'next/navigation';
import { Popover } from 'radix-ui';
import { type KeyboardEvent, useRef, useState } from 'react';
import type { Shot } from '@/core/document/model';
import { shotsInOrder } from '@/core/reel/reel';
import { plural } from '@/core/time/counts';
import { BACK_TO_SHELF } from '@/core/words';
import { useProject, useShot, useShotPart } from '@/features/project/hooks';
import { goToShot } from '@/features/project/navigation';
import { useProjectStore } from '@/features/sync/projectStore';
import { goToShelf } from '@/features/workspace/goToShelf';
import { useOthersHand } from '@/features/workspace/othersHand';
import { Mark } from '@/ui/Mark';

const ROW_PX = 30;
const MOST_ROWS = 12;
const optionId = (index: number) => `shot-option-${index}`;

/** After choosing, the arrow keys are for the frames: on the menu's button they would open it again. */
function letFramesHaveKeys(event: Event): void {
  event.preventDefault();
  document.querySelector<HTMLElement>('[role="grid"]')?.focus();
}

const isCalled = ({ code, name }: Shot, words: string) => `${code} ${name}`.toLowerCase().includes(words.trim().toLowerCase());

/** Every shot of the project, however many: those whose code or name has what is typed, as many rows as are in sight. */
function ShotSearch({ onChoose }: { onChoose: (shotId: string) => void }) {
  const project = useProject();
  const open = useShot();
  const [words, setWords] = useState('');
  const shots = shotsInOrder(project).filter((shot) => isCalled(shot, words));
  const [active, setActive] = useState(() => Math.max(0, open ? shots.indexOf(open) : 0));
  const scroller = useRef<HTMLDivElement>(null);
  const rows = useVirtualizer({
    count: shots.length,
    getScrollElement: () => scroller.current,
    estimateSize: () => ROW_PX,
    overscan: 8,
    initialOffset: Math.max(0, (active - MOST_ROWS / 2) * ROW_PX),
    initialRect: { width: 0, height: MOST_ROWS * ROW_PX },
  });
  const go = (index: number) => {
    const next = Math.max(0, Math.min(shots.length - 1, index));
    setActive(next);
    rows.scrollToIndex(next);
  };
  const onKeyDown = (event: KeyboardEvent) => {
    const target = { ArrowDown: active + 1, ArrowUp: active - 1, PageDown: active + MOST_ROWS, PageUp: active - MOST_ROWS }[event.key];
    const shot = shots[active];
    if (event.key === 'Enter' && shot) onChoose(shot.id);
    else if (target !== undefined) go(target);
    else return;
    event.preventDefault();
  };
  return (
    <>
      <input
        role="combobox"
        aria-label="Shot"
        aria-expanded="true"
        aria-controls="shot-options"
        aria-activedescendant={shots.length > 0 ? optionId(active) : undefined}
        placeholder={`Code or name of one of ${plural(project.shots.length, 'shot')}`}
        value={words}
        onChange={(event) => {
          setWords(event.target.value);
          setActive(0);
        }}
        onKeyDown={onKeyDown}
        className="mb-1 w-full rounded-lg border border-line bg-paper px-2.5 py-1.5 text-xs"
      />
      <div
        ref={scroller}
        id="shot-options"
        role="listbox"
        aria-label="Shots"
        className="overflow-y-auto"
        style={{ height: Math.min(MOST_ROWS, Math.max(1, shots.length)) * ROW_PX }}
      >
        <div role="presentation" className="relative" style={{ height: rows.getTotalSize() }}>
          {rows.getVirtualItems().map(({ index, start }) => {
            const shot = shots[index];
            return (
              shot && (
                // biome-ignore lint/a11y/useFocusableInteractive: the field has the focus and names the active option
                // biome-ignore lint/a11y/useKeyWithClickEvents: the field answers to the keys
                <div
                  key={shot.id}
                  id={optionId(index)}
                  role="option"
                  aria-selected={shot.id === open?.id}
                  aria-setsize={shots.length}
                  aria-posinset={index + 1}
                  onClick={() => onChoose(shot.id)}
                  onPointerMove={() => setActive(index)}
                  className={`absolute inset-x-0 flex cursor-pointer items-center justify-between gap-4 rounded-lg px-2.5 ${index === active ? 'bg-lime-wash' : ''} ${shot.id === open?.id ? 'font-bold' : ''}`}
                  style={{ top: start, height: ROW_PX }}
                >
                  <span className="truncate">
                    {shot.code} {shot.name}
                  </span>
                  <span className="numbers whitespace-nowrap text-soft text-xs">{plural(shot.frames, 'frame')}</span>
                </div>
              )
            );
          })}
        </div>
      </div>
      {shots.length === 0 && <p className="px-2.5 pb-1 text-soft text-xs">No shot has “{words}” in its code or name.</p>}
    </>
  );
}

/** The project's title and the open shot; the others a press away. */
export function ShotMenu() {
  // What changes in the shot with every step is none of its business.
  const title = useProjectStore(({ project }) => project?.title ?? '');
  const shotId = useShotPart(({ id }) => id);
  const shot = useShotPart(({ code, name }) => `Shot ${code}${name ? ` · ${name}` : ''}`);
  const hand = useOthersHand(shotId);
  const router = useRouter();
  const [isOpen, setOpen] = useState(false);
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
        <h1 className="truncate font-bold font-head text-base leading-5">{title}</h1>
        <Popover.Root open={isOpen} onOpenChange={setOpen}>
          <Popover.Trigger className="flex max-w-full items-center gap-1 rounded text-soft text-xs hover:text-ink">
            {hand && <span className="max-w-24 shrink-0 truncate font-semibold text-rust">{hand} has it ·</span>}
            <span className="truncate">{shot ?? 'No shot'}</span>
            <ChevronDown size={12} className="shrink-0" />
          </Popover.Trigger>
          <Popover.Portal>
            <Popover.Content align="start" sideOffset={4} onCloseAutoFocus={letFramesHaveKeys} className="panel z-50 w-80 p-1.5 shadow-xl">
              <ShotSearch
                onChoose={(chosenId) => {
                  goToShot(chosenId);
                  setOpen(false);
                }}
              />
            </Popover.Content>
          </Popover.Portal>
        </Popover.Root>
      </div>
    </div>
  );
}
