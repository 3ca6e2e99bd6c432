'use client';
import { ChevronDown } from 'lucide-react';
import { DropdownMenu } from 'radix-ui';
import { memo } from 'react';
import { keyText } from '@/features/commands/command';
import { commandCalled } from '@/features/commands/everyCommand';
import { hindranceOf } from '@/features/commands/here';
import { keysOf } from '@/features/commands/keyStore';

/** Commands on drawings that are easily taken for each other: what each touches is said before it is done. */
const ACTS: readonly (readonly (readonly [id: string, note: string])[])[] = [
  [
    ['new-drawing', 'an empty one'],
    ['copy-drawing', 'independent of what it was copied from'],
    ['copy-of', 'independent of what it was copied from'],
    ['show-again', 'the same one: drawing on it changes every place'],
    ['own-copy', 'the other places keep what they show'],
  ],
  [
    ['clear-drawing', 'the drawing and its frames stay'],
    ['remove-exposure', 'the drawing stays on its level'],
    ['blank', 'the drawing stays on its level'],
    ['delete-drawing', 'the drawing goes with all its frames'],
  ],
];

/** What can be done now, each with what it will touch; asked as the menu opens. */
function Acts() {
  return ACTS.map((group, index) => (
    <DropdownMenu.Group key={group[0]?.[0]} className={index > 0 ? 'mt-1 border-line border-t pt-1' : ''}>
      {group.map(([id, note]) => {
        const command = commandCalled(id);
        const hindrance = hindranceOf(command);
        const [key] = keysOf(command);
        return (
          <DropdownMenu.Item
            key={id}
            disabled={hindrance !== null}
            onSelect={command.run}
            className="flex items-center gap-2 rounded-lg px-2.5 py-1 outline-none data-[disabled]:opacity-45 data-[highlighted]:bg-lime-wash"
          >
            <span className="min-w-0 flex-1">
              <span className="block font-semibold text-xs">{command.words()}</span>
              <span className="block text-2xs text-soft">{hindrance ?? note}</span>
            </span>
            {key && <kbd className="numbers text-2xs text-soft">{keyText(key)}</kbd>}
          </DropdownMenu.Item>
        );
      })}
    </DropdownMenu.Group>
  ));
}

/** New, copy, again, clear, remove, delete. Not made anew with the stage it stands on. */
export const DrawingMenu = memo(function DrawingMenu() {
  return (
    <DropdownMenu.Root>
      <DropdownMenu.Trigger
        aria-label="More on drawings"
        title="Copy, show again, clear, remove, delete"
        className="flex min-h-8 items-center rounded-lg border border-line bg-sunk px-1.5 hover:border-edge"
      >
        <ChevronDown size={14} />
      </DropdownMenu.Trigger>
      <DropdownMenu.Portal>
        <DropdownMenu.Content align="end" sideOffset={4} className="panel z-50 w-[400px] p-1.5 shadow-xl">
          <Acts />
        </DropdownMenu.Content>
      </DropdownMenu.Portal>
    </DropdownMenu.Root>
  );
});
