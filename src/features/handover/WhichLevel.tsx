'use client';
import type { Shot } from '@/core/document/model';
import type { Recipe } from '@/core/output/recipe';
import { Select } from '@/ui/Select';

const ALL = '';

/** Levels of a shot that may leave, each by itself: guides never do. */
export const levelsThatLeave = ({ levels }: Shot) => levels.filter(({ kind }) => kind !== 'guide');

/** Takes one level of the shot alone, or all that is seen. A level alone has nothing under it. */
export function WhichLevel({ recipe, shot, onChange }: { recipe: Recipe; shot: Shot; onChange: (part: Partial<Recipe>) => void }) {
  return (
    <Select
      label="Levels"
      value={recipe.levelId ?? ALL}
      options={[
        { value: ALL, label: 'All that is seen, together' },
        ...levelsThatLeave(shot).map(({ id, name }) => ({ value: id, label: `${name} alone` })),
      ]}
      onChange={(levelId) => onChange(levelId === ALL ? { levelId: null } : { levelId, withBackground: false })}
    />
  );
}
