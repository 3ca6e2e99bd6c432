'use client';
import { X } from 'lucide-react';
import { type ReactNode, useRef } from 'react';
import { countLine } from '@/core/outside/countWords';
import { countText } from '@/core/time/counts';
import { choose, putOnDesk, type Thing, takeOffDesk, useDeskStore } from '@/features/counting/deskStore';
import { Button } from '@/ui/Button';

/** How something agrees, in a word or two. */
function Verdict({ thing }: { thing: Thing }) {
  const held = useDeskStore((state) => state.held.get(thing.id));
  const against = useDeskStore((state) => state.against);
  if (thing.kind === 'waiting') return <p className="text-soft text-xs">waits</p>;
  if (thing.kind === 'refused') return <p className="font-bold text-rust text-xs">{thing.reason}</p>;
  if (thing.kind === 'counting')
    return (
      <p className="numbers text-xs">
        counting … {countText(thing.frames)}
        {thing.all !== null && ` of ${countText(thing.all)}`}
      </p>
    );
  if (held)
    return (
      <p data-testid="desk-verdict" className={`font-bold text-xs ${held.agreement.agrees ? 'text-moss' : 'text-rust'}`}>
        {held.agreement.agrees ? 'agrees' : 'disagrees'}
      </p>
    );
  return (
    <p className="text-soft text-xs">
      {against.kind === 'nothing' || against.kind === 'thing' ? 'counted; held against nothing' : 'counted; being held against the plan …'}
    </p>
  );
}

function ThingCard({ thing }: { thing: Thing }) {
  const isChosen = useDeskStore((state) => state.chosenId === thing.id);
  return (
    <li className={`relative rounded-xl border-2 bg-sunk ${isChosen ? 'border-moss' : 'border-line'}`}>
      <button type="button" aria-pressed={isChosen} onClick={() => choose(thing.id)} className="block w-full p-3 pr-9 text-left">
        <span className="block break-all font-bold">{thing.name}</span>
        {thing.kind === 'counted' && <span className="numbers block text-2xs text-soft">{countLine(thing.count)}</span>}
        <Verdict thing={thing} />
      </button>
      <Button
        tight
        kind="quiet"
        className="absolute top-1.5 right-1.5"
        aria-label={thing.kind === 'counting' ? `Stop counting ${thing.name} and take it off the desk` : `Take ${thing.name} off the desk`}
        onClick={() => takeOffDesk(thing.id)}
      >
        <X size={14} aria-hidden="true" />
      </Button>
    </li>
  );
}

/** What came back: files are dropped or chosen here, and listed with what was counted. */
export function DeskFiles({ top, against }: { top: ReactNode; against: ReactNode }) {
  const things = useDeskStore((state) => state.things);
  const files = useRef<HTMLInputElement>(null);
  const folder = useRef<HTMLInputElement>(null);
  const take = (input: HTMLInputElement) => {
    const chosen = [...(input.files ?? [])];
    input.value = '';
    if (chosen.length > 0) void putOnDesk(chosen);
  };
  return (
    <section aria-label="What came back" className="panel flex flex-col overflow-hidden">
      <div className="min-h-0 flex-1 space-y-4 overflow-y-auto p-4">
        {top}
        <div className="space-y-1.5">
          <h2 className="font-bold font-head text-base">What came back</h2>
          <p className="text-soft">Films, pictures, loops, sounds, ZIPs or folders, whoever made them. Nothing is changed.</p>
        </div>
        <div className="rounded-xl border-2 border-edge border-dashed p-3.5 text-center">
          <p className="text-soft">Drop files here, or choose</p>
          <div className="mt-2 flex flex-wrap justify-center gap-1.5">
            <Button kind={things.length === 0 ? 'go' : 'plain'} onClick={() => files.current?.click()}>
              Files …
            </Button>
            <Button onClick={() => folder.current?.click()}>A folder …</Button>
          </div>
          <input ref={files} type="file" multiple hidden data-testid="desk-files" onChange={(event) => take(event.target)} />
          <input ref={folder} type="file" multiple hidden {...{ webkitdirectory: '' }} onChange={(event) => take(event.target)} />
        </div>
        {things.length > 0 && (
          <ul aria-label="On the desk" className="space-y-2">
            {things.map((thing) => (
              <ThingCard key={thing.id} thing={thing} />
            ))}
          </ul>
        )}
        {against}
      </div>
    </section>
  );
}
