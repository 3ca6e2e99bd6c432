'use client';
import { X } from 'lucide-react';
import { useEffect, useState } from 'react';
import { type Act, keyOf, keyText } from '@/features/commands/command';
import { actOnKey, giveKeys, keysOf, resetKeys, useKeyStore } from '@/features/commands/keyStore';
import { Button } from '@/ui/Button';
import { Dialog } from '@/ui/Dialog';
import { Field } from '@/ui/Field';

const MOST_KEYS = 4;
const NO_KEYS = ['Shift', 'Control', 'Alt', 'Meta', 'Tab', 'Dead', 'CapsLock'];

/** Waits for one key for an act; a key that another act has is told before it is taken. */
function KeyCatcher({ act, acts, onEnd }: { act: Act; acts: readonly Act[]; onEnd: () => void }) {
  const [wanted, setWanted] = useState<string | null>(null);
  const holder = wanted ? actOnKey(acts, wanted, act) : undefined;
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
      if (actOnKey(acts, key, act)) setWanted(key);
      else {
        giveKeys(acts, act, [...keysOf(act).filter((each) => each !== key), key].slice(-MOST_KEYS));
        onEnd();
      }
    };
    window.addEventListener('keydown', onKeyDown, true);
    return () => window.removeEventListener('keydown', onKeyDown, true);
  }, [wanted, act, acts, onEnd]);
  if (!wanted || !holder) return <span className="text-soft text-xs">Press the key (Esc: none)</span>;
  return (
    <span role="alert" className="flex items-center gap-2 text-xs">
      <span className="text-rust">
        {keyText(wanted)} is “{holder.words()}”.
      </span>
      <Button
        onClick={() => {
          giveKeys(acts, act, [...keysOf(act), wanted].slice(-MOST_KEYS));
          onEnd();
        }}
      >
        Take it from there
      </Button>
      <Button onClick={onEnd}>Leave it</Button>
    </span>
  );
}

function KeyRow({
  act,
  acts,
  catching,
  onCatch,
}: {
  act: Act;
  acts: readonly Act[];
  catching: boolean;
  onCatch: (id: string | null) => void;
}) {
  const keys = keysOf(act);
  const isChanged = useKeyStore((state) => act.id in state.changed);
  return (
    <li className="flex min-h-8 items-center gap-2 border-line/60 border-b py-0.5">
      <span className="min-w-0 flex-1 truncate" title={act.words()}>
        {act.words()}
      </span>
      {catching ? (
        <KeyCatcher act={act} acts={acts} onEnd={() => onCatch(null)} />
      ) : (
        <>
          {keys.map((key) => (
            <kbd key={key} className="numbers flex items-center gap-1 rounded border border-line bg-sunk px-1.5 text-2xs">
              {keyText(key)}
              <button
                type="button"
                aria-label={`Take ${keyText(key)} from “${act.words()}”`}
                onClick={() =>
                  giveKeys(
                    acts,
                    act,
                    keys.filter((other) => other !== key),
                  )
                }
              >
                <X size={10} />
              </button>
            </kbd>
          ))}
          <Button onClick={() => onCatch(act.id)} aria-label={`Another key for “${act.words()}”`}>
            Add
          </Button>
          {isChanged && (
            <Button onClick={() => giveKeys(acts, act, act.keys)} aria-label={`The keys “${act.words()}” came with`}>
              Reset
            </Button>
          )}
        </>
      )}
    </li>
  );
}

/** Every act with its keys, to look up and to change. */
export function KeysDialog({ acts }: { acts: readonly Act[] }) {
  const isOpen = useKeyStore((state) => state.isOpen);
  const changed = useKeyStore((state) => state.changed);
  const [search, setSearch] = useState('');
  const [catching, setCatching] = useState<string | null>(null);
  if (!isOpen) return null;
  const needle = search.trim().toLowerCase();
  const shown = acts.filter(
    (act) => act.words().toLowerCase().includes(needle) || keysOf(act).some((key) => keyText(key).toLowerCase() === needle),
  );
  const groups = [...new Set(shown.map((act) => act.group))];
  return (
    <Dialog
      title="Keys"
      about="Every act with its keys. They are kept with the program on this computer, for all projects."
      open
      onOpenChange={(open) => useKeyStore.setState({ isOpen: open })}
    >
      <div className="my-3 flex items-end gap-3">
        <Field label="Find an act, or a key as Shift N" value={search} onChange={setSearch} className="flex-1" />
        <Button onClick={resetKeys} disabled={Object.keys(changed).length === 0}>
          Reset all
        </Button>
      </div>
      <div className="h-[52vh] overflow-y-auto pr-2">
        {groups.map((group) => (
          <section key={group} aria-label={group}>
            <h3 className="mt-2 font-bold text-soft text-xs">{group}</h3>
            <ul>
              {shown
                .filter((act) => act.group === group)
                .map((act) => (
                  <KeyRow key={act.id} act={act} acts={acts} catching={catching === act.id} onCatch={setCatching} />
                ))}
            </ul>
          </section>
        ))}
        {groups.length === 0 && <p className="p-3 text-soft">Nothing goes by that name or key.</p>}
      </div>
    </Dialog>
  );
}
