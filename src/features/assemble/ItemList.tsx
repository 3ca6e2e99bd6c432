'use client';
import { useVirtualizer } from '@tanstack/react-virtual';
import { type KeyboardEvent, useEffect, useRef } from 'react';
import { type PlacedItem, placedItems } from '@/core/reel/reel';
import { itemSentence, trimWords } from '@/features/assemble/itemWords';
import { useProject } from '@/features/project/hooks';
import { goToReelFrame } from '@/features/project/navigation';
import { useViewStore } from '@/features/project/viewStore';

const ROW_PX = 26;

const optionId = (itemId: string) => `reel-item-${itemId}`;

/** Goes to an item and chooses it; with `extend` all from what was chosen to it. */
function choose(items: readonly PlacedItem[], index: number, extend: boolean): void {
  const placed = items[index];
  if (!placed) return;
  const { reelSelection } = useViewStore.getState();
  const chosen = items.flatMap(({ item }, place) => (reelSelection.includes(item.id) ? [place] : []));
  const from = extend && chosen.length > 0 ? Math.min(index, ...chosen) : index;
  const to = extend && chosen.length > 0 ? Math.max(index, ...chosen) : index;
  useViewStore.setState({ reelSelection: items.slice(from, to + 1).map(({ item }) => item.id) });
  goToReelFrame(placed.startFrame);
}

/** Every item of the reel with its exact frames, for the eye, the keyboard and whoever listens; as many rows as are in sight. */
export function ItemList() {
  const project = useProject();
  const items = placedItems(project);
  const selection = useViewStore((state) => state.reelSelection);
  const scroller = useRef<HTMLDivElement>(null);
  const rows = useVirtualizer({ count: items.length, getScrollElement: () => scroller.current, estimateSize: () => ROW_PX, overscan: 6 });
  const first = project.firstFrameNumber;
  const activeId = selection.at(-1);
  const active = items.findIndex(({ item }) => item.id === activeId);

  useEffect(() => {
    // What is in sight stays where it is, without the page being measured.
    const heightPx = rows.scrollRect?.height ?? 0;
    const top = active * ROW_PX - (rows.scrollOffset ?? 0);
    if (active < 0 || !scroller.current) return;
    if (top < 0) scroller.current.scrollTop = active * ROW_PX;
    else if (top + ROW_PX > heightPx) scroller.current.scrollTop = (active + 1) * ROW_PX - heightPx;
  }, [active, rows]);

  const onKeyDown = (event: KeyboardEvent) => {
    const target = { ArrowDown: active + 1, ArrowUp: active < 0 ? 0 : active - 1, Home: 0, End: items.length - 1 }[event.key];
    if (target === undefined || event.ctrlKey || event.altKey || event.metaKey) return;
    event.preventDefault();
    event.stopPropagation();
    choose(items, Math.max(0, Math.min(items.length - 1, target)), event.shiftKey);
  };
  const seen = rows.getVirtualItems();
  return (
    <div
      ref={scroller}
      role="listbox"
      aria-label="Reel"
      aria-multiselectable="true"
      aria-activedescendant={activeId && seen.some(({ index }) => index === active) ? optionId(activeId) : undefined}
      tabIndex={0}
      onKeyDown={onKeyDown}
      className="min-h-0 flex-1 overflow-y-auto"
    >
      <div role="presentation" className="relative" style={{ height: rows.getTotalSize() }}>
        {seen.map(({ index, start }) => {
          const placed = items[index];
          if (!placed) return null;
          const { item, source, startFrame, endFrame } = placed;
          const isChosen = selection.includes(item.id);
          return (
            // biome-ignore lint/a11y/useFocusableInteractive: the list has the focus and names its active option
            // biome-ignore lint/a11y/useKeyWithClickEvents: the list answers to the keys
            <div
              key={item.id}
              id={optionId(item.id)}
              role="option"
              aria-selected={isChosen}
              aria-setsize={items.length}
              aria-posinset={index + 1}
              aria-label={itemSentence(placed, first)}
              onClick={(event) => choose(items, index, event.shiftKey)}
              className={`numbers absolute inset-x-0 flex cursor-pointer items-center gap-2 rounded-lg px-2 text-xs ${isChosen ? 'bg-lime-wash' : 'hover:bg-sunk'}`}
              style={{ top: start, height: ROW_PX }}
            >
              <span className="w-[58px] shrink-0 truncate font-semibold" title={source?.name}>
                {source?.name ?? 'gap'}
              </span>
              <span className="w-[76px] shrink-0 whitespace-nowrap">
                {startFrame + first}–{endFrame - 1 + first}
              </span>
              <span className="w-[52px] shrink-0 text-right">{endFrame - startFrame} fr</span>
              <span className="min-w-0 truncate text-2xs text-soft">
                {item.kind === 'gap' ? 'paper' : item.trim ? trimWords(placed, first) : item.kind === 'clip' ? 'clip' : 'whole'}
              </span>
            </div>
          );
        })}
      </div>
    </div>
  );
}
