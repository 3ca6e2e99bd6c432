'use client';
import { EllipsisVertical } from 'lucide-react';
import { DropdownMenu } from 'radix-ui';
import type { ShelfEntry } from '@/contracts/project';

/** What can be done to a project from the shelf. */
export type ShelfAct = 'rename' | 'duplicate' | 'package' | 'past' | 'put-away' | 'bring-back' | 'delete';

const WORDS: Readonly<Record<ShelfAct, string>> = {
  rename: 'Rename …',
  duplicate: 'Duplicate',
  package: 'Save as a package',
  past: 'The past …',
  'put-away': 'Put away',
  'bring-back': 'Put back on the shelf',
  delete: 'Delete for good …',
};

/** A project's menu: everything that can be done to it without opening it. */
export function ProjectMenu({ entry, onAct }: { entry: ShelfEntry; onAct: (act: ShelfAct) => void }) {
  const acts: readonly ShelfAct[] = [
    'rename',
    'duplicate',
    'package',
    'past',
    entry.putAwayAt === null ? 'put-away' : 'bring-back',
    'delete',
  ];
  return (
    <DropdownMenu.Root>
      <DropdownMenu.Trigger
        aria-label={`More about ${entry.title}`}
        className="flex size-8 shrink-0 items-center justify-center rounded-lg border border-line bg-paper hover:border-edge"
      >
        <EllipsisVertical size={16} aria-hidden="true" />
      </DropdownMenu.Trigger>
      <DropdownMenu.Portal>
        <DropdownMenu.Content align="end" sideOffset={4} className="panel z-50 min-w-48 p-1 text-sm shadow-lg">
          {acts.map((act) => (
            <DropdownMenu.Item
              key={act}
              onSelect={() => onAct(act)}
              className={`cursor-default rounded-md px-2.5 py-1.5 outline-none data-[highlighted]:bg-sunk ${act === 'delete' ? 'text-rust' : ''}`}
            >
              {WORDS[act]}
            </DropdownMenu.Item>
          ))}
        </DropdownMenu.Content>
      </DropdownMenu.Portal>
    </DropdownMenu.Root>
  );
}
