'use client';
import type { Shot } from '@/core/document/model';
import { drawingShownAt } from '@/core/sheet/reading';
import { drawingWords } from '@/core/words';
import { commandCalled, hint } from '@/features/commands/everyCommand';
import { useViewStore } from '@/features/project/viewStore';

/** Which picture of each guide shows here, by the guide's own number: of a clip, its frame. Switches between pictures and lines. */
export function GuideTag({ shot, frame }: { shot: Shot; frame: number }) {
  const guideLines = useViewStore((state) => state.guideLines);
  const shown = shot.levels.flatMap((level) => {
    const drawing = level.kind === 'guide' && level.visible ? drawingShownAt(level, frame) : undefined;
    return drawing ? [drawingWords(level.name, drawing.number)] : [];
  });
  if (shown.length === 0) return null;
  return (
    <button
      type="button"
      onPointerDown={(event) => event.stopPropagation()}
      onClick={commandCalled('guide-lines').run}
      title={hint(guideLines ? 'Show guides as they are' : 'Show only the lines of guides', 'guide-lines')}
      className="numbers absolute bottom-1.5 left-1.5 cursor-pointer rounded-full border border-line bg-paper/90 px-2 py-0.5 text-2xs text-soft hover:border-edge"
    >
      {shown.join(', ')} · {guideLines ? 'lines' : 'picture'}
    </button>
  );
}
