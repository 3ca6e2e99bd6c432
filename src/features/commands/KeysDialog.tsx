'use client';
import { X } from 'lucide-react';
import { useEffect, useState } from 'react';
import { CANCEL } from '@/core/words';
import { BROWSER_KEYS } from '@/features/commands/browserKeys';
import { type Command, keyOf, keyText } from '@/features/commands/command';
import { commandOnKey, giveKeys, keysOf, resetKeys, useKeyStore } from '@/features/commands/keyStore';
import { Button } from '@/ui/Button';
import { Dialog } from '@/ui/Dialog';
import { Field } from '@/ui/Field';

const MOST_KEYS = 4;
const NO_KEYS = ['Shift', 'Control', 'Alt', 'Meta', 'Tab', 'Dead', 'CapsLock'];

/** Waits for one key for a command; a key that another command has is told before it is taken. */
function KeyCatcher({ command, commands, onEnd }: { command: Command; commands: readonly Command[]; onEnd: () => void }) {
  const [wanted, setWanted] = useState<string | null>(null);
  const [kept, setKept] = useState<string | null>(null);
  const holder = wanted ? commandOnKey(commands, wanted, command) : undefined;
  useEffect(() => {
    if (wanted) return;
    const onKeyDown = (event: KeyboardEvent) => {
      if (NO_KEYS.includes(event.key)) return;
      event.preventDefault();
      event.stopPropagation();
      if (event.key === 'Escape') {
        onEnd();
        return;
      }
      const key = keyOf(event);
      if (BROWSER_KEYS[key] !== undefined) {
        setKept(key);
        return;
      }
      setKept(null);
      if (commandOnKey(commands, key, command)) setWanted(key);
      else {
        giveKeys(commands, command, [...keysOf(command).filter((each) => each !== key), key].slice(-MOST_KEYS));
        onEnd();
      }
    };
    window.addEventListener('keydown', onKeyDown, true);
    return () => window.removeEventListener('keydown', onKeyDown, true);
  }, [wanted, command, commands, onEnd]);
  if (!wanted || !holder)
    return (
      <span role="status" className={`text-xs ${kept ? 'text-rust' : 'text-soft'}`}>
        {kept ? `${keyText(kept)} ${BROWSER_KEYS[kept]}: browsers keep it. Press another (Esc: none)` : 'Press the key (Esc: none)'}
      </span>
    );
  return (
    <span role="alert" className="flex items-center gap-2 text-xs">
      <span className="text-rust">
        {keyText(wanted)} is “{holder.words()}”.
      </span>
      <Button
        onClick={() => {
          giveKeys(commands, command, [...keysOf(command), wanted].slice(-MOST_KEYS));
          onEnd();
        }}
      >
        Reassign
      </Button>
      <Button onClick={onEnd}>{CANCEL}</Button>
    </span>
  );
}

function KeyRow({
  command,
  commands,
  catching,
  onCatch,
}: {
  command: Command;
  commands: readonly Command[];
  catching: boolean;
  onCatch: (id: string | null) => void;
}) {
  const keys = keysOf(command);
  const isChanged = useKeyStore((state) => command.id in state.changed);
  return (
    <li className="flex min-h-8 items-center gap-2 border-line/60 border-b py-0.5">
      <span className="min-w-0 flex-1 truncate" title={command.words()}>
        {command.words()}
      </span>
      {catching ? (
        <KeyCatcher command={command} commands={commands} onEnd={() => onCatch(null)} />
      ) : (
        <>
          {keys.map((key) => (
            <kbd key={key} className="numbers flex items-center gap-1 rounded border border-line bg-sunk px-1.5 text-2xs">
              {keyText(key)}
              <button
                type="button"
                aria-label={`Reassign ${keyText(key)} from “${command.words()}”`}
                onClick={() =>
                  giveKeys(
                    commands,
                    command,
                    keys.filter((other) => other !== key),
                  )
                }
              >
                <X size={10} />
              </button>
            </kbd>
          ))}
          <Button onClick={() => onCatch(command.id)} aria-label={`Another shortcut for “${command.words()}”`}>
            Add
          </Button>
          {isChanged && (
            <Button onClick={() => giveKeys(commands, command, command.keys)} aria-label={`The shortcuts “${command.words()}” came with`}>
              Reset
            </Button>
          )}
        </>
      )}
    </li>
  );
}

/** Every command with its keys, to look up and to change. */
export function KeysDialog({ commands }: { commands: readonly Command[] }) {
  const isOpen = useKeyStore((state) => state.isOpen);
  const changed = useKeyStore((state) => state.changed);
  const [search, setSearch] = useState('');
  const [catching, setCatching] = useState<string | null>(null);
  if (!isOpen) return null;
  const needle = search.trim().toLowerCase();
  const shown = commands.filter(
    (command) => command.words().toLowerCase().includes(needle) || keysOf(command).some((key) => keyText(key).toLowerCase() === needle),
  );
  const groups = [...new Set(shown.map((command) => command.group))];
  return (
    <Dialog
      title="Shortcuts"
      about="Every command with its shortcuts. They are saved on this computer, for all projects."
      open
      onOpenChange={(open) => useKeyStore.setState({ isOpen: open })}
    >
      <div className="my-3 flex items-end gap-3">
        <Field label="Find a command, or a shortcut as Shift N" value={search} onChange={setSearch} className="flex-1" />
        <Button onClick={resetKeys} disabled={Object.keys(changed).length === 0}>
          Reset all
        </Button>
      </div>
      <div className="-mx-1 h-[52vh] overflow-y-auto p-1 pr-2">
        {groups.map((group) => (
          <section key={group} aria-label={group}>
            <h3 className="mt-2 font-bold text-soft text-xs">{group}</h3>
            <ul>
              {shown
                .filter((command) => command.group === group)
                .map((command) => (
                  <KeyRow key={command.id} command={command} commands={commands} catching={catching === command.id} onCatch={setCatching} />
                ))}
            </ul>
          </section>
        ))}
        {groups.length === 0 && <p className="p-3 text-soft">No matching command.</p>}
      </div>
    </Dialog>
  );
}
