'use client';
import { X } from 'lucide-react';
import { hint } from '@/features/commands/everyCommand';
import { WHOLE_PAPER } from '@/features/project/paperView';
import { useViewStore } from '@/features/project/viewStore';

/** How the paper is looked at when it isn't whole and upright; a press makes it so again. */
export function ViewTag() {
  const view = useViewStore((state) => state.paperView);
  if (Object.entries(WHOLE_PAPER).every(([key, value]) => view[key as keyof typeof view] === value)) return null;
  const turned = Math.round(view.turnDegrees > 180 ? view.turnDegrees - 360 : view.turnDegrees);
  const words = [
    `${Math.round(view.zoom * 100)} %`,
    ...(turned === 0 ? [] : [`turned ${turned}°`]),
    ...(view.mirrored ? ['mirrored'] : []),
  ];
  return (
    <button
      type="button"
      title={hint('Fit the paper', 'paper-whole')}
      onPointerDown={(event) => event.stopPropagation()}
      onClick={() => useViewStore.setState({ paperView: WHOLE_PAPER })}
      className={`numbers absolute top-1.5 right-1.5 flex cursor-pointer items-center gap-1 rounded-full border px-2 py-0.5 text-2xs ${view.mirrored ? 'border-ink bg-ink text-paper' : 'border-line bg-paper/90'}`}
    >
      {words.join(' · ')}
      <X size={11} aria-label="Fit the paper" />
    </button>
  );
}
