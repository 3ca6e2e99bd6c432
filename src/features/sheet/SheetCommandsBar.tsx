'use client';
import { CommandMenu } from '@/features/commands/CommandMenu';
import { copyCommands } from '@/features/commands/copyCommands';
import { frameCommands } from '@/features/commands/frameCommands';
import { patternCommands } from '@/features/commands/patternCommands';
import { planCommands } from '@/features/commands/planCommands';
import { sheetCommands } from '@/features/commands/sheetCommands';
import { setChosenLength, timingCommands } from '@/features/commands/timingCommands';
import { useViewStore } from '@/features/project/viewStore';
import { sheetFileCommands } from '@/features/sheet/sheetFileCommands';
import { Button } from '@/ui/Button';
import { Choice } from '@/ui/Choice';

const LENGTHS = ['', 'Ones', 'Twos', 'Threes'];

/** The commands on exposures that are needed most, with the mouse, and all others behind a word; all of them are keys too. */
export function SheetCommandsBar() {
  const following = useViewStore((state) => state.following);
  return (
    <div className="flex flex-wrap items-center gap-x-2 gap-y-1.5 border-line border-b px-3 py-1.5">
      <span className="flex gap-1" role="toolbar" aria-label="Length of the selected exposures">
        {([1, 2, 3] as const).map((frames) => (
          <Button
            key={frames}
            onClick={() => setChosenLength(frames)}
            aria-label={`${LENGTHS[frames]} (${frames}s)`}
            title={`${LENGTHS[frames]}: every drawing, new length (${frames})`}
            tight
          >
            {frames}s
          </Button>
        ))}
      </span>
      <Choice
        label="What follows a changed length"
        value={following}
        options={[
          { value: 'push', label: 'Push the rest', title: 'What follows moves by the difference (M)' },
          { value: 'overwrite', label: 'Cover the rest', title: 'What follows keeps its frames and is covered (M)' },
        ]}
        onChange={(value) => useViewStore.setState({ following: value })}
      />
      <span className="ml-auto flex flex-wrap gap-1">
        <CommandMenu label="Drawing" commands={[...planCommands, ...sheetCommands]} />
        <CommandMenu label="Timing" commands={timingCommands} />
        <CommandMenu label="Pattern" commands={patternCommands} />
        <CommandMenu label="Frames" commands={frameCommands} />
        <CommandMenu label="Sheet" commands={[...copyCommands, ...sheetFileCommands]} />
      </span>
    </div>
  );
}
