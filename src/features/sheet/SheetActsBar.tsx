'use client';
import { keyText } from '@/features/acts/act';
import { setChosenLength, sheetActs } from '@/features/acts/sheetActs';
import { useViewStore } from '@/features/project/viewStore';
import { Button } from '@/ui/Button';
import { Choice } from '@/ui/Choice';

const SHOWN = [
  ['new-drawing', 'New drawing'],
  ['copy-drawing', 'Copy'],
  ['blank', 'Blank'],
  ['remove-exposure', 'Remove'],
] as const;

/** The acts on exposures that are needed most, with the mouse; all of them are keys too. */
export function SheetActsBar() {
  const following = useViewStore((state) => state.following);
  return (
    <div className="flex flex-wrap items-center gap-x-2.5 gap-y-1.5 border-line border-b px-3 py-2">
      <span className="flex gap-1" role="toolbar" aria-label="Length of the chosen exposures">
        {([1, 2, 3] as const).map((frames) => (
          <Button key={frames} onClick={() => setChosenLength(frames)} title={`Expose for ${frames} (${frames})`} tight>
            {['', 'Ones', 'Twos', 'Threes'][frames]}
          </Button>
        ))}
      </span>
      <span className="flex items-center gap-1.5">
        <Choice
          label="What follows a changed length"
          value={following}
          options={[
            { value: 'push', label: 'rest moves', title: 'What follows moves by the difference (M)' },
            { value: 'overwrite', label: 'rest stays', title: 'What follows keeps its frames and is covered (M)' },
          ]}
          onChange={(value) => useViewStore.setState({ following: value })}
        />
      </span>
      <span className="ml-auto flex gap-1">
        {SHOWN.map(([id, label]) => {
          const act = sheetActs.find((candidate) => candidate.id === id);
          return (
            act && (
              <Button key={id} onClick={act.run} title={`${label} (${act.keys.map(keyText).join(', ')})`} tight>
                {label}
              </Button>
            )
          );
        })}
      </span>
    </div>
  );
}
