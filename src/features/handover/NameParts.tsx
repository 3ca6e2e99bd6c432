'use client';
import { closestCenter, DndContext, type DragEndEvent } from '@dnd-kit/core';
import { horizontalListSortingStrategy, SortableContext, useSortable } from '@dnd-kit/sortable';
import { CSS } from '@dnd-kit/utilities';
import { X } from 'lucide-react';
import { useState } from 'react';
import { LAYOUTS, type Layout, MOST_NUMBER, type NamePart, PART_NAMES, SEPARATORS } from '@/core/output/names';
import type { PictureOptions } from '@/core/output/pictures';
import { NumberField } from '@/features/handover/NumberField';
import { CommitField } from '@/ui/Field';
import { Select } from '@/ui/Select';
import { sortableWords, useSortableSensors } from '@/ui/sortable';

const LAYOUT_NAMES: Readonly<Record<Layout, string>> = {
  flat: 'all in one place',
  shot: 'a folder a shot',
  level: 'a folder a level',
  shotLevel: 'shot / level',
};

const same = (a: unknown, b: unknown) => JSON.stringify(a) === JSON.stringify(b);
const layoutOf = (names: readonly NamePart[]): Layout | 'own' =>
  (Object.keys(LAYOUTS) as Layout[]).find((layout) => same(LAYOUTS[layout], names)) ?? 'own';

/** What a part says on its chip. */
const chipWords = (part: NamePart): string =>
  part.part === 'separator' ? (part.text === ' ' ? '␣' : part.text) : part.part === 'words' ? part.words : PART_NAMES[part.part];

const ADDED: readonly { readonly value: string; readonly label: string; readonly part: NamePart }[] = [
  ...(['project', 'scope', 'shot', 'level', 'drawing', 'frame', 'reelFrame', 'rate', 'date'] as const).map((part) => ({
    value: part,
    label: PART_NAMES[part],
    part: { part },
  })),
  ...SEPARATORS.map((text) => ({
    value: text,
    label: text === ' ' ? 'a space' : text === '/' ? '/ (a folder)' : text,
    part: { part: 'separator' as const, text },
  })),
];

function Chip({ id, part, onRemove }: { id: string; part: NamePart; onRemove: () => void }) {
  const { attributes, listeners, setNodeRef, transform, transition } = useSortable({ id });
  const isPlain = part.part === 'separator';
  return (
    <span
      ref={setNodeRef}
      style={{ transform: CSS.Translate.toString(transform), transition }}
      className={`numbers inline-flex min-h-7 items-center rounded-lg text-xs ${isPlain ? 'bg-line' : 'bg-lime-wash'}`}
    >
      <button
        type="button"
        {...attributes}
        {...listeners}
        aria-label={`Part ${chipWords(part)}: drag, or Space and arrow keys, to move it; Delete to take it out`}
        onKeyDown={(event) => {
          if (event.key === 'Delete' || event.key === 'Backspace') onRemove();
          else listeners?.onKeyDown?.(event);
        }}
        className="max-w-32 cursor-grab truncate px-1.5 py-1"
      >
        {chipWords(part)}
      </button>
      <button type="button" aria-label={`Take out ${chipWords(part)}`} onClick={onRemove} className="pr-1 text-soft hover:text-ink">
        <X size={12} aria-hidden />
      </button>
    </span>
  );
}

/** The parts names are built from, as chips that can be moved, taken out and added to; and how files are numbered. */
export function NameParts({ options, onChange }: { options: PictureOptions; onChange: (options: PictureOptions) => void }) {
  const sensors = useSortableSensors();
  const [words, setWords] = useState('');
  const { names, numbering } = options;
  const ids = names.map((_, index) => `part-${index}`);
  const setNames = (next: readonly NamePart[]) => next.length > 0 && onChange({ ...options, names: next });
  const moved = ({ active, over }: DragEndEvent) => {
    const [from, to] = [ids.indexOf(String(active.id)), over ? ids.indexOf(String(over.id)) : -1];
    if (from >= 0 && to >= 0 && from !== to) setNames(names.toSpliced(from, 1).toSpliced(to, 0, names[from] as NamePart));
  };
  const layout = layoutOf(names);
  return (
    <div className="space-y-2">
      <Select<Layout | 'own'>
        label="Laid out"
        value={layout}
        options={[
          ...(Object.keys(LAYOUTS) as Layout[]).map((value) => ({ value, label: LAYOUT_NAMES[value] })),
          ...(layout === 'own' ? [{ value: 'own' as const, label: 'as built below' }] : []),
        ]}
        onChange={(value) => value !== 'own' && setNames(LAYOUTS[value])}
      />
      <DndContext
        id="name-parts"
        sensors={sensors}
        collisionDetection={closestCenter}
        accessibility={sortableWords(ids, (id) => chipWords(names[ids.indexOf(id)] as NamePart))}
        onDragEnd={moved}
      >
        <SortableContext items={ids} strategy={horizontalListSortingStrategy}>
          <fieldset aria-label="Parts of the names" className="flex flex-wrap gap-1">
            {names.map((part, index) => (
              <Chip
                key={ids[index]}
                id={ids[index] as string}
                part={part}
                onRemove={() => setNames(names.filter((_, place) => place !== index))}
              />
            ))}
          </fieldset>
        </SortableContext>
      </DndContext>
      <div className="grid grid-cols-2 gap-2">
        <Select
          label="Add a part"
          value=""
          options={[{ value: '', label: 'choose …' }, ...ADDED]}
          onChange={(value) => {
            const added = ADDED.find((each) => each.value === value);
            if (added) setNames([...names, added.part]);
          }}
        />
        <CommitField
          label="Own words"
          maxLength={200}
          value={words}
          onChange={setWords}
          onCommit={(text) => {
            if (text === '') return;
            setNames([...names, { part: 'words', words: text }]);
            setWords('');
          }}
        />
      </div>
      <div className="grid grid-cols-3 gap-2">
        <CommitField
          label="Start number"
          inputMode="numeric"
          placeholder="its own"
          value={numbering.start === null ? '' : String(numbering.start)}
          onCommit={(text) => {
            const start = text.trim() === '' ? null : Number(text);
            if (start === null || (Number.isInteger(start) && start >= 0 && start <= MOST_NUMBER))
              onChange({ ...options, numbering: { ...numbering, start } });
          }}
        />
        <NumberField
          label="Step"
          value={numbering.step}
          least={1}
          most={1000}
          onChange={(step) => onChange({ ...options, numbering: { ...numbering, step } })}
        />
        <NumberField
          label="Digits"
          value={numbering.digits}
          least={1}
          most={10}
          onChange={(digits) => onChange({ ...options, numbering: { ...numbering, digits } })}
        />
      </div>
    </div>
  );
}
