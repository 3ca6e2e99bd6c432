'use client';
import { DropdownMenu } from 'radix-ui';
import { type Command, keyText } from '@/features/commands/command';
import { hindranceOf } from '@/features/commands/here';
import { keysOf } from '@/features/commands/keyStore';

/** Commands of one kind behind one word, with what each will do and its keys. */
export function CommandMenu({ label, commands }: { label: string; commands: readonly Command[] }) {
  return (
    <DropdownMenu.Root modal={false}>
      <DropdownMenu.Trigger className="inline-flex min-h-7 items-center rounded-lg border border-line bg-sunk px-2 py-1 font-semibold text-xs hover:border-edge data-[state=open]:border-ink">
        {label}
      </DropdownMenu.Trigger>
      <DropdownMenu.Portal>
        <DropdownMenu.Content
          align="start"
          sideOffset={4}
          className="panel z-50 max-h-[70vh] min-w-72 overflow-y-auto p-1.5 shadow-xl"
          onCloseAutoFocus={(event) => event.preventDefault()}
        >
          <Items commands={commands} />
        </DropdownMenu.Content>
      </DropdownMenu.Portal>
    </DropdownMenu.Root>
  );
}

/** What a menu holds; what each command would do is worked out only while it is open. */
function Items({ commands }: { commands: readonly Command[] }) {
  return commands.map((command) => {
    const hindrance = hindranceOf(command);
    const [key] = keysOf(command);
    return (
      <DropdownMenu.Item
        key={command.id}
        disabled={hindrance !== null}
        onSelect={() => command.run()}
        className="flex items-center justify-between gap-4 rounded-lg px-2.5 py-1 outline-none data-[disabled]:opacity-50 data-[highlighted]:bg-lime-wash"
      >
        <span>
          {command.words()}
          {hindrance && <span className="text-soft"> ({hindrance})</span>}
        </span>
        {key && <kbd className="numbers rounded border border-line bg-sunk px-1.5 text-2xs">{keyText(key)}</kbd>}
      </DropdownMenu.Item>
    );
  });
}
