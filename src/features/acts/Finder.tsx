'use client';
import { Command } from 'cmdk';
import { Dialog } from 'radix-ui';
import { type Act, keyText } from '@/features/acts/act';
import { keysOf } from '@/features/acts/keyStore';

/** Every act of the program, found by its words, with its keys. */
export function Finder({ acts, open, onOpenChange }: { acts: readonly Act[]; open: boolean; onOpenChange: (open: boolean) => void }) {
  const groups = [...new Set(acts.map((act) => act.group))];
  return (
    <Dialog.Root open={open} onOpenChange={onOpenChange}>
      <Dialog.Portal>
        <Dialog.Overlay className="fixed inset-0 z-40 bg-ink/30" />
        <Dialog.Content
          aria-describedby={undefined}
          className="panel fixed top-[12vh] left-1/2 z-50 w-[min(560px,94vw)] -translate-x-1/2 overflow-hidden shadow-xl"
        >
          <Dialog.Title className="sr-only">Find an act</Dialog.Title>
          <Command loop label="Find an act">
            <Command.Input
              placeholder="What do you want to do?"
              className="w-full border-line border-b bg-transparent px-4 py-3 text-base outline-none"
            />
            <Command.List className="max-h-[56vh] overflow-y-auto p-2">
              <Command.Empty className="p-4 text-soft">Nothing goes by that name.</Command.Empty>
              {groups.map((group) => (
                <Command.Group
                  key={group}
                  heading={group}
                  className="[&_[cmdk-group-heading]]:px-2 [&_[cmdk-group-heading]]:pt-2 [&_[cmdk-group-heading]]:pb-1 [&_[cmdk-group-heading]]:text-soft [&_[cmdk-group-heading]]:text-xs"
                >
                  {acts
                    .filter((act) => act.group === group)
                    .map((act) => {
                      const hindrance = act.hindrance?.() ?? null;
                      return (
                        <Command.Item
                          key={act.id}
                          value={`${act.words()} ${act.id}`}
                          disabled={hindrance !== null}
                          onSelect={() => {
                            onOpenChange(false);
                            act.run();
                          }}
                          className="flex items-center justify-between gap-3 rounded-lg px-2 py-1.5 data-[disabled=true]:opacity-50 data-[selected=true]:bg-lime-wash"
                        >
                          <span>
                            {act.words()}
                            {hindrance && <span className="text-soft"> ({hindrance})</span>}
                          </span>
                          <span className="flex gap-1">
                            {keysOf(act).map((key) => (
                              <kbd key={key} className="numbers rounded border border-line bg-sunk px-1.5 text-2xs">
                                {keyText(key)}
                              </kbd>
                            ))}
                          </span>
                        </Command.Item>
                      );
                    })}
                </Command.Group>
              ))}
            </Command.List>
          </Command>
        </Dialog.Content>
      </Dialog.Portal>
    </Dialog.Root>
  );
}
