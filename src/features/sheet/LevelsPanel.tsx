'use client';
import { closestCenter, DndContext } from '@dnd-kit/core';
import { SortableContext, verticalListSortingStrategy } from '@dnd-kit/sortable';
import { Plus } from 'lucide-react';
import { DropdownMenu } from 'radix-ui';
import { memo, useEffect, useState } from 'react';
import { BLEND_MODES, type BlendMode } from '@/core/document/blendModes';
import { type Level, type LevelKind, levelById, type Shot } from '@/core/document/model';
import { drawingShownAt } from '@/core/sheet/reading';
import { LEVEL_KIND_NAMES } from '@/core/words';
import { chooseFiles } from '@/features/commands/bringFiles';
import { addLevel, describeLevel, LEVEL_KINDS, moveLevelTo } from '@/features/commands/levelCommands';
import { inView, useLevel, useProject } from '@/features/project/hooks';
import { useSoon } from '@/features/project/useCalm';
import { useViewStore } from '@/features/project/viewStore';
import { LevelRow } from '@/features/sheet/LevelRow';
import { useOpaque } from '@/features/sheet/useOpaque';
import { CommitField } from '@/ui/Field';
import { Later, part, whenCalm } from '@/ui/later';
import { Select } from '@/ui/Select';
import { Slider } from '@/ui/Slider';
import { sortableWords, useSortableSensors } from '@/ui/sortable';

const levelSources = part(async () => (await import('@/features/sheet/LevelSources')).LevelSources);

/** What a level was brought in from, once the page is calm: the server is asked for it. */
function SourcesLater({ level }: { level: Level }) {
  const [isCalm, setCalm] = useState(false);
  useEffect(() => whenCalm(() => setCalm(true)), []);
  return isCalm && <Later of={levelSources} props={{ level }} />;
}

const KIND_OPTIONS = [
  { value: 'animated', label: LEVEL_KIND_NAMES.animated },
  { value: 'still', label: LEVEL_KIND_NAMES.still },
  { value: 'guide', label: LEVEL_KIND_NAMES.guide },
] as const;

const BLEND_WORDS: Readonly<Partial<Record<BlendMode, string>>> = {
  normal: 'Normal',
  'color-dodge': 'Colour dodge',
  'color-burn': 'Colour burn',
};
const BLEND_OPTIONS = BLEND_MODES.map((value) => ({
  value,
  label: BLEND_WORDS[value] ?? `${value.charAt(0).toUpperCase()}${value.slice(1).replace('-', ' ')}`,
}));

type LevelSettings = Pick<Level, 'id' | 'name' | 'kind' | 'blend' | 'opacityPercent'>;

/** Told of a drawing without any transparency on a level that should let others show. */
function CoverWords({ shot, level }: { shot: Shot; level: Level }) {
  // The frame waits for keys to rest, not the drawing: it is always one of this level's that is told of.
  const drawing = drawingShownAt(level, useSoon(useViewStore((state) => state.frame)));
  const opaque = useOpaque(level.kind === 'animated' ? (drawing?.picture ?? null) : null);
  if (!opaque || !drawing || level.opacityPercent < 100 || level.blend !== 'normal' || shot.levels[0] === level) return null;
  return (
    <p role="status" className="mt-2 text-rust text-xs">
      Drawing {drawing.number} has no transparency: it covers what is below {level.name}.
    </p>
  );
}

/** Says something of a level of the shot in view. */
function describeChosen(levelId: string, change: Parameters<typeof describeLevel>[2]): void {
  const shot = inView()?.shot;
  const level = shot && levelById(shot, levelId);
  if (level) describeLevel(shot, level, change);
}

/** What can be said about the chosen level; not made anew with what is drawn on it. */
const ChosenLevel = memo(function ChosenLevel({ id, name, kind, blend, opacityPercent }: LevelSettings) {
  const [opacity, setOpacity] = useState(opacityPercent);
  useEffect(() => setOpacity(opacityPercent), [opacityPercent]);
  return (
    <div className="mt-2 grid grid-cols-2 items-end gap-x-3 gap-y-1.5">
      <CommitField label="Name" value={name} maxLength={60} onCommit={(to) => describeChosen(id, { name: to })} />
      <div>
        <span className="text-soft text-xs">
          Opacity <span className="numbers">{opacity} %</span>
        </span>
        <Slider
          label={`Opacity of ${name}`}
          value={opacity}
          min={0}
          max={100}
          step={5}
          onChange={setOpacity}
          onCommit={(to) => describeChosen(id, { opacityPercent: to })}
        />
      </div>
      <Select label="Kind" value={kind} options={KIND_OPTIONS} onChange={(to) => describeChosen(id, { kind: to })} />
      <Select label="Blend" value={blend} options={BLEND_OPTIONS} onChange={(to) => describeChosen(id, { blend: to })} />
    </div>
  );
});

/** What begins another level. */
const NewLevel = memo(function NewLevel() {
  const add = (kind: LevelKind) => {
    const view = inView();
    if (view) addLevel(view.shot, kind);
  };
  return (
    <DropdownMenu.Root>
      <DropdownMenu.Trigger
        aria-label="New level"
        className="flex items-center gap-1 rounded-lg border border-line bg-sunk px-2 py-0.5 font-semibold text-xs hover:border-edge"
      >
        <Plus size={12} /> Level
      </DropdownMenu.Trigger>
      <DropdownMenu.Portal>
        <DropdownMenu.Content align="end" sideOffset={4} className="panel z-50 p-1.5 shadow-xl">
          {(Object.keys(LEVEL_KINDS) as LevelKind[]).map((kind) => (
            <DropdownMenu.Item
              key={kind}
              onSelect={() => add(kind)}
              className="rounded-lg px-2.5 py-1.5 outline-none data-[highlighted]:bg-lime-wash"
            >
              {LEVEL_KINDS[kind]}
            </DropdownMenu.Item>
          ))}
          <DropdownMenu.Item
            onSelect={() => chooseFiles()}
            className="mt-1 rounded-lg border-line border-t px-2.5 py-1.5 outline-none data-[highlighted]:bg-lime-wash"
          >
            Bring in pictures or a clip: from files, or drop them anywhere
          </DropdownMenu.Item>
        </DropdownMenu.Content>
      </DropdownMenu.Portal>
    </DropdownMenu.Root>
  );
});

/** The levels of a shot, in front first, with what is drawn on each; what is settled about the chosen one. */
export function LevelsPanel({ shot }: { shot: Shot }) {
  const { size } = useProject();
  const chosen = useLevel();
  const sensors = useSortableSensors();
  const frontFirst = shot.levels.toReversed();
  return (
    <section aria-label="Levels" className="border-line border-t p-3.5">
      <div className="mb-1.5 flex items-center justify-between">
        <h2 className="font-bold">Levels</h2>
        <NewLevel />
      </div>
      <DndContext
        sensors={sensors}
        collisionDetection={closestCenter}
        accessibility={sortableWords(
          frontFirst.map(({ id }) => id),
          (id) => `The level ${levelById(shot, id)?.name}`,
        )}
        onDragEnd={({ active, over }) => over && moveLevelTo(shot, String(active.id), String(over.id))}
      >
        <SortableContext items={frontFirst.map((level) => level.id)} strategy={verticalListSortingStrategy}>
          <ul className="-mx-1.5">
            {frontFirst.map((level) => (
              <LevelRow key={level.id} shot={shot} level={level} size={size} isChosen={level.id === chosen?.id} />
            ))}
          </ul>
        </SortableContext>
      </DndContext>
      {chosen && (
        <ChosenLevel
          key={chosen.id}
          id={chosen.id}
          name={chosen.name}
          kind={chosen.kind}
          blend={chosen.blend}
          opacityPercent={chosen.opacityPercent}
        />
      )}
      {chosen && <CoverWords shot={shot} level={chosen} />}
      {chosen && <SourcesLater level={chosen} />}
    </section>
  );
}
