'use client';
import { useState } from 'react';
import { DESTINATIONS, type Destination } from '@/core/check/destinations';
import { type DestinationText, destinationText, readDestination } from '@/core/outside/destinationText';
import { CANCEL } from '@/core/words';
import { putDestination } from '@/features/sync/api';
import { Button } from '@/ui/Button';
import { Choice } from '@/ui/Choice';
import { Dialog } from '@/ui/Dialog';
import { Field } from '@/ui/Field';
import { toast } from '@/ui/toast';

const newId = (): string => `own-${crypto.randomUUID()}`;

/** The rules of one destination, to be changed. */
function Rules({
  of,
  isSaved,
  onDone,
  onOwn,
}: {
  of: Destination;
  isSaved: boolean;
  onDone: () => void;
  onOwn: (own: readonly Destination[]) => void;
}) {
  const [text, setText] = useState<DestinationText>(destinationText(of));
  const read = readDestination(of.id, text);
  const change = (part: Partial<DestinationText>) => setText({ ...text, ...part });
  const send = (destination: Destination | null) =>
    putDestination({ id: of.id, destination }).then(
      ({ destinations }) => {
        onOwn(destinations);
        onDone();
      },
      (error: unknown) => void toast.error(`It was not saved: ${error instanceof Error ? error.message : 'the server does not answer'}.`),
    );
  return (
    <form
      className="mt-3 space-y-2.5"
      onSubmit={(event) => {
        event.preventDefault();
        if (read.ok) void send(read.value);
      }}
    >
      <Field label="Name" value={text.name} onChange={(name) => change({ name })} />
      <Choice
        label="What it takes"
        value={text.loops ? 'loops' : 'films'}
        options={[
          { value: 'films', label: 'Films' },
          { value: 'loops', label: 'Loops' },
        ]}
        onChange={(kind) => change({ loops: kind === 'loops' })}
      />
      <Field label="Sizes: 1920 x 1080, 1280 x 720, or up to 3840, even" value={text.sizes} onChange={(sizes) => change({ sizes })} />
      <Field label="Rates, as 24, 25, 23.976" value={text.rates} onChange={(rates) => change({ rates })} />
      <div className="grid grid-cols-2 gap-2.5">
        <Field label="Shortest, in seconds" value={text.shortest} onChange={(shortest) => change({ shortest })} />
        <Field label="Longest, in seconds" value={text.longest} onChange={(longest) => change({ longest })} />
        <Field label="Largest file, in MiB" value={text.mebibytes} onChange={(mebibytes) => change({ mebibytes })} />
        <Field label="Colours, as 16 to 235" value={text.colours} onChange={(colours) => change({ colours })} />
      </div>
      <p className="text-2xs text-soft">
        An empty field means no limit. Every file must have sound as long as its picture, no unsafe flashes and a plain name.
      </p>
      {!read.ok && (
        <p role="alert" className="text-rust text-xs">
          {read.reason}
        </p>
      )}
      <div className="flex flex-wrap gap-2">
        <Button kind="go" type="submit" disabled={!read.ok}>
          Save this destination
        </Button>
        {isSaved && (
          <Button kind="warn" onClick={() => void send(null)}>
            Delete “{of.name}”
          </Button>
        )}
        <Button onClick={onDone}>{CANCEL}</Button>
      </div>
    </form>
  );
}

/** The destinations files are held against: those that come with the program, and one's own, which can be changed. */
export function DestinationsDialog({
  open,
  onOpenChange,
  own,
  onOwn,
}: {
  open: boolean;
  onOpenChange: (open: boolean) => void;
  own: readonly Destination[];
  onOwn: (own: readonly Destination[]) => void;
}) {
  const [edited, setEdited] = useState<Destination | null>(null);
  return (
    <Dialog
      title="Destinations"
      about="What each takes. Those that come with the program stay as they are; make one of your own from any of them."
      open={open}
      onOpenChange={(isOpen) => {
        setEdited(null);
        onOpenChange(isOpen);
      }}
    >
      {edited ? (
        <Rules key={edited.id} of={edited} isSaved={own.includes(edited)} onOwn={onOwn} onDone={() => setEdited(null)} />
      ) : (
        <ul className="mt-3 divide-y divide-line">
          {[...DESTINATIONS, ...own].map((destination) => {
            const isOwn = own.includes(destination);
            const { sizes, rates } = destinationText(destination);
            return (
              <li key={destination.id} className="flex items-center gap-2 py-2">
                <span className="min-w-0 flex-1">
                  <b>{destination.name}</b>
                  <span className="numbers block truncate text-2xs text-soft">
                    {sizes} · {rates}
                  </span>
                </span>
                {isOwn ? (
                  <Button aria-label={`Change ${destination.name}`} onClick={() => setEdited(destination)}>
                    Change …
                  </Button>
                ) : (
                  <Button
                    aria-label={`Make one of your own from ${destination.name}`}
                    onClick={() => setEdited({ ...destination, id: newId(), name: `${destination.name}, mine` })}
                  >
                    Make my own …
                  </Button>
                )}
              </li>
            );
          })}
        </ul>
      )}
    </Dialog>
  );
}
