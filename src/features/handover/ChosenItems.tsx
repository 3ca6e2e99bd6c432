'use client';
import { useState } from 'react';
import type { Recipe } from '@/core/output/recipe';
import { type PlacedItem, placedItems } from '@/core/reel/reel';
import { plural } from '@/core/time/counts';
import { handOver } from '@/features/handover/queueStore';
import { useProject } from '@/features/project/hooks';
import { Button } from '@/ui/Button';

/** An item as a list names it: what it shows, and its frames on the reel. */
const itemWords = ({ source, startFrame, endFrame }: PlacedItem, first: number): string =>
  `${source?.name ?? 'Gap'}, ${startFrame + first}–${endFrame - 1 + first}`;

/** Takes some items of the reel, each as files of its own, with what is heard over it. */
export function ChosenItems({ recipe }: { recipe: Recipe }) {
  const project = useProject();
  const [chosen, setChosen] = useState<ReadonlySet<string>>(new Set());
  const items = placedItems(project);
  const first = project.firstFrameNumber;
  const taken = items.filter(({ item }) => chosen.has(item.id));
  const choose = (id: string, isChosen: boolean) =>
    setChosen(new Set(isChosen ? [...chosen, id] : [...chosen].filter((other) => other !== id)));
  return (
    <details className="rounded-lg border border-line p-2">
      <summary className="cursor-pointer font-semibold text-xs">Chosen items of the reel</summary>
      <ul aria-label="Items of the reel" className="-mx-1 mt-1 max-h-42 space-y-1 overflow-y-auto p-1">
        {items.map((placed) => (
          <li key={placed.item.id}>
            <label className="flex items-center gap-2 text-xs">
              <input
                type="checkbox"
                checked={chosen.has(placed.item.id)}
                onChange={(event) => choose(placed.item.id, event.target.checked)}
                className="accent-ink"
              />
              <span className="numbers truncate">{itemWords(placed, first)}</span>
            </label>
          </li>
        ))}
      </ul>
      <Button
        disabled={taken.length === 0}
        title="One handover an item, in the queue"
        className="mt-2"
        onClick={() => {
          const texts = taken.map(({ startFrame, endFrame }) => [String(startFrame + first), String(endFrame - 1 + first)] as const);
          void handOver(...texts.map(([fromText, toText]) => ({ ...recipe, shotId: null, levelId: null, fromText, toText })));
        }}
      >
        {taken.length === 0 ? 'Choose items to hand over' : `Hand over ${plural(taken.length, 'item')}, each by itself`}
      </Button>
    </details>
  );
}
