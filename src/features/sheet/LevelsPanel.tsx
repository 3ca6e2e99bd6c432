'use client';
import { Eye, EyeOff, Plus } from 'lucide-react';
import { DropdownMenu } from 'radix-ui';
import { useEffect, useState } from 'react';
import { type Level, type LevelKind, newLevel, type Shot } from '@/core/sheet/document';
import { workOfLevel } from '@/core/sheet/work';
import { useLevel } from '@/features/project/hooks';
import { make } from '@/features/project/session';
import { useViewStore } from '@/features/project/viewStore';
import { CommitField } from '@/ui/Field';
import { Slider } from '@/ui/Slider';

const KIND_WORDS: Record<LevelKind, string> = {
  animated: 'Animated: drawings with exposures',
  still: 'Still: one drawing for the whole shot',
  guide: 'Guide: to draw after, never handed over',
};

function workWords(level: Level): string {
  if (level.kind === 'guide') return 'guide';
  if (level.kind === 'still') return level.drawings[0]?.picture ? 'still' : 'still, empty';
  const work = workOfLevel(level);
  return `${work.drawn}/${work.drawings}`;
}

function addLevel(shot: Shot, kind: LevelKind): void {
  const used = new Set(shot.levels.map((level) => level.name));
  let number = shot.levels.length + 1;
  while (used.has(`Level ${number}`)) number++;
  const level = newLevel(crypto.randomUUID(), `Level ${number}`, kind);
  if (make({ type: 'addLevel', shotId: shot.id, level, index: kind === 'still' ? 0 : shot.levels.length }))
    useViewStore.setState({ levelId: level.id, selection: null });
}

/** The levels of a shot, in front first, with what is drawn on each; the chosen one's name and opacity. */
export function LevelsPanel({ shot }: { shot: Shot }) {
  const chosen = useLevel();
  const [opacity, setOpacity] = useState(chosen?.opacityPercent ?? 100);
  useEffect(() => setOpacity(chosen?.opacityPercent ?? 100), [chosen?.opacityPercent]);
  const describeLevel = (level: Level, change: { name?: string; visible?: boolean; opacityPercent?: number }) =>
    make({ type: 'describeLevel', shotId: shot.id, levelId: level.id, change });
  return (
    <section aria-label="Levels" className="border-line border-t p-3.5">
      <div className="mb-1.5 flex items-center justify-between">
        <h2 className="font-bold">Levels</h2>
        <DropdownMenu.Root>
          <DropdownMenu.Trigger
            aria-label="New level"
            className="flex items-center gap-1 rounded-lg border border-line bg-sunk px-2 py-0.5 font-semibold text-xs hover:border-edge"
          >
            <Plus size={12} /> Level
          </DropdownMenu.Trigger>
          <DropdownMenu.Portal>
            <DropdownMenu.Content align="end" sideOffset={4} className="panel z-50 p-1.5 shadow-xl">
              {(Object.keys(KIND_WORDS) as LevelKind[]).map((kind) => (
                <DropdownMenu.Item
                  key={kind}
                  onSelect={() => addLevel(shot, kind)}
                  className="rounded-lg px-2.5 py-1.5 outline-none data-[highlighted]:bg-lime-wash"
                >
                  {KIND_WORDS[kind]}
                </DropdownMenu.Item>
              ))}
            </DropdownMenu.Content>
          </DropdownMenu.Portal>
        </DropdownMenu.Root>
      </div>
      <ul>
        {shot.levels.toReversed().map((level) => (
          <li key={level.id} className={`flex items-center gap-1 rounded-lg ${level.id === chosen?.id ? 'bg-lime-wash' : 'hover:bg-sunk'}`}>
            <button
              type="button"
              aria-pressed={level.id === chosen?.id}
              onClick={() => useViewStore.setState({ levelId: level.id, selection: null })}
              className="flex min-w-0 flex-1 items-center justify-between gap-2 rounded-lg px-2 py-1 text-left"
            >
              <span
                className={`truncate ${level.kind === 'guide' ? 'text-soft italic' : 'font-semibold'} ${level.visible ? '' : 'line-through'}`}
              >
                {level.name}
              </span>
              <span className="numbers shrink-0 text-2xs text-soft">
                {workWords(level)} · {level.opacityPercent} %
              </span>
            </button>
            <button
              type="button"
              aria-label={`${level.name} ${level.visible ? 'seen' : 'hidden'}`}
              aria-pressed={level.visible}
              title={level.visible ? 'Hide' : 'Show'}
              onClick={() => describeLevel(level, { visible: !level.visible })}
              className="rounded p-1 text-soft hover:text-ink"
            >
              {level.visible ? <Eye size={14} /> : <EyeOff size={14} />}
            </button>
          </li>
        ))}
      </ul>
      {chosen && (
        <div className="mt-2 grid grid-cols-[1fr_1fr] items-end gap-3">
          <CommitField label="Name" value={chosen.name} maxLength={60} onCommit={(name) => describeLevel(chosen, { name })} />
          <div>
            <span className="text-soft text-xs">
              Opacity <span className="numbers">{opacity} %</span>
            </span>
            <Slider
              label={`Opacity of ${chosen.name}`}
              value={opacity}
              min={0}
              max={100}
              step={5}
              onChange={setOpacity}
              onCommit={(opacityPercent) => describeLevel(chosen, { opacityPercent })}
            />
          </div>
        </div>
      )}
    </section>
  );
}
