'use client';
import { Command as Palette } from 'cmdk';
import { Dialog } from 'radix-ui';
import { useRef, useState } from 'react';
import { type Command, keyText } from '@/features/commands/command';
import { hindranceOf } from '@/features/commands/here';
import { keysOf } from '@/features/commands/keyStore';
import { chosenBySearch, findCommands } from '@/features/commands/search';
import { useProjectStore } from '@/features/sync/projectStore';
import { undo } from '@/features/sync/session';
import { DialogCross } from '@/ui/Dialog';
import { toast } from '@/ui/toast';

/** Runs a command, and says what it did to the document, with Undo beside it. */
function runAndSay(command: Command): void {
  const words = command.words();
  const before = useProjectStore.getState().undo.at(-1)?.order;
  command.run();
  const made = useProjectStore.getState().undo.at(-1);
  if (!made || made.order === before || command.id === 'redo') return;
  toast.message(words, { id: 'done', action: { label: 'Undo', onClick: () => void undo(made.order) } });
}

/** Every command of the program, found by its words, with its keys. */
export function Finder({
  commands,
  open,
  onOpenChange,
}: {
  commands: readonly Command[];
  open: boolean;
  onOpenChange: (open: boolean) => void;
}) {
  const [search, setSearch] = useState('');
  const [chosen, setChosen] = useState<string | null>(null);
  /** Changes whenever the list has chosen its first entry by itself, which is taken back: Enter must run nothing that was not asked for. */
  const [takenBack, setTakenBack] = useState(0);
  /** Whether a hand has gone over the list since something was typed: the list itself chooses its first entry. */
  const handChooses = useRef(false);
  const matches = open ? findCommands(commands, search) : [];
  const isAsked = search.trim() !== '';
  const groups = isAsked ? [''] : [...new Set(matches.map(({ command }) => command.group))];
  const changeOpen = (next: boolean) => {
    setSearch('');
    setChosen(null);
    handChooses.current = false;
    onOpenChange(next);
  };
  return (
    <Dialog.Root open={open} onOpenChange={changeOpen}>
      <Dialog.Portal>
        <Dialog.Overlay className="fixed inset-0 z-40 bg-black/35" />
        <Dialog.Content
          aria-describedby={undefined}
          className="panel fixed top-[12vh] left-1/2 z-50 w-[min(560px,94vw)] -translate-x-1/2 overflow-hidden shadow-xl"
        >
          <Dialog.Title className="sr-only">Find a command</Dialog.Title>
          <Palette
            loop
            label="Find a command"
            shouldFilter={false}
            value={chosen ?? `nothing ${takenBack}`}
            onValueChange={(value) => (handChooses.current ? setChosen(value) : setTakenBack((times) => times + 1))}
            onKeyDownCapture={(event) => {
              if (event.key !== 'Enter') handChooses.current = event.key.startsWith('Arrow') || event.key === 'Home' || event.key === 'End';
            }}
            onPointerMoveCapture={() => {
              handChooses.current = true;
            }}
          >
            <Palette.Input
              placeholder="What do you want to do?"
              value={search}
              onValueChange={(text) => {
                handChooses.current = false;
                setSearch(text);
                setChosen(chosenBySearch(findCommands(commands, text), text)?.id ?? null);
              }}
              className="w-full border-line border-b bg-transparent py-3 pr-12 pl-4 text-base outline-none"
            />
            <Palette.List className="max-h-[56vh] overflow-y-auto p-2">
              {matches.length === 0 && <p className="p-4 text-soft">No matching command.</p>}
              {groups.map((group) => (
                <Palette.Group
                  key={group}
                  heading={group === '' ? undefined : group}
                  className="[&_[cmdk-group-heading]]:px-2 [&_[cmdk-group-heading]]:pt-2 [&_[cmdk-group-heading]]:pb-1 [&_[cmdk-group-heading]]:text-soft [&_[cmdk-group-heading]]:text-xs"
                >
                  {matches
                    .filter(({ command }) => group === '' || command.group === group)
                    .map(({ command }) => {
                      const hindrance = hindranceOf(command);
                      return (
                        <Palette.Item
                          key={command.id}
                          value={command.id}
                          disabled={hindrance !== null}
                          onSelect={() => {
                            changeOpen(false);
                            runAndSay(command);
                          }}
                          className="flex items-center justify-between gap-3 rounded-lg px-2 py-1.5 data-[disabled=true]:opacity-50 data-[selected=true]:bg-lime-wash"
                        >
                          <span>
                            {command.words()}
                            {isAsked && <span className="text-soft text-xs"> · {command.group}</span>}
                            {hindrance && <span className="text-soft"> ({hindrance})</span>}
                          </span>
                          <span className="flex gap-1">
                            {keysOf(command).map((key) => (
                              <kbd key={key} className="numbers rounded border border-line bg-sunk px-1.5 text-2xs">
                                {keyText(key)}
                              </kbd>
                            ))}
                          </span>
                        </Palette.Item>
                      );
                    })}
                </Palette.Group>
              ))}
            </Palette.List>
          </Palette>
          <DialogCross />
        </Dialog.Content>
      </Dialog.Portal>
    </Dialog.Root>
  );
}
