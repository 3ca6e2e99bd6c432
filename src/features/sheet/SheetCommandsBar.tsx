'use client';
import { ActMenu } from '@/features/commands/CommandMenu';
import { copyActs } from '@/features/commands/copyCommands';
import { frameActs } from '@/features/commands/frameCommands';
import { patternActs } from '@/features/commands/patternCommands';
import { sheetActs } from '@/features/commands/sheetCommands';
import { setChosenLength, timingActs } from '@/features/commands/timingCommands';
import { useViewStore } from '@/features/project/viewStore';
import { sheetFileActs } from '@/features/sheet/sheetFileCommands';
import { Button } from '@/ui/Button';
import { Choice } from '@/ui/Choice';

const LENGTHS = ['', 'Ones', 'Twos', 'Threes'];

/** The acts on exposures that are needed most, with the mouse, and all others behind a word; all of them are keys too. */
export function SheetActsBar() {
  const following = useViewStore((state) => state.following);
  return (
    <div className="flex flex-wrap items-center gap-x-2 gap-y-1.5 border-line border-b px-3 py-1.5">
      <span className="flex gap-1" role="toolbar" aria-label="Length of the chosen exposures">
        {([1, 2, 3] as const).map((frames) => (
          <Button key={frames} onClick={() => setChosenLength(frames)} title={`${LENGTHS[frames]}, drawings kept (${frames})`} tight>
            {LENGTHS[frames]}
          </Button>
        ))}
      </span>
      <Choice
        label="What follows a changed length"
        value={following}
        options={[
          { value: 'push', label: 'rest moves', title: 'What follows moves by the difference (M)' },
          { value: 'overwrite', label: 'stays', title: 'What follows keeps its frames and is covered (M)' },
        ]}
        onChange={(value) => useViewStore.setState({ following: value })}
      />
      <span className="ml-auto flex gap-1">
        <ActMenu label="Drawing" acts={sheetActs} />
        <ActMenu label="Timing" acts={timingActs} />
        <ActMenu label="Pattern" acts={patternActs} />
        <ActMenu label="Frames" acts={frameActs} />
        <ActMenu label="Sheet" acts={[...copyActs, ...sheetFileActs]} />
      </span>
    </div>
  );
}
