'use client';
import { Popover } from 'radix-ui';
import { type FormEvent, useState } from 'react';
import { PERSON_COLOURS, type Person, type Present } from '@/contracts/people';
import { shotById } from '@/core/document/model';
import { goToStage, isStage, STAGE_NAMES } from '@/features/path/stages';
import { useProject, useShot } from '@/features/project/hooks';
import { goToShot } from '@/features/project/navigation';
import { changeHand, settlePerson, usePeople } from '@/features/sync/people';
import { reasonOf } from '@/features/sync/reasonOf';
import { WINDOW_ID } from '@/features/sync/windows';
import { useOthersHand } from '@/features/workspace/othersHand';
import { Button } from '@/ui/Button';
import { Field } from '@/ui/Field';
import { toast } from '@/ui/toast';

const MOST_SHOWN = 4;

const initial = (name: string): string => [...name.trim()][0]?.toLocaleUpperCase() ?? '?';

function Face({ person }: { person: Pick<Person, 'name' | 'colour'> }) {
  return (
    <span
      aria-hidden="true"
      className="flex size-6 shrink-0 items-center justify-center rounded-full border-2 bg-paper font-bold text-2xs"
      style={{ borderColor: person.colour }}
    >
      {initial(person.name)}
    </span>
  );
}

/** Everybody else who is there, each once, however many windows they have open. */
function useOthers(): readonly Present[] {
  const { me, people } = usePeople();
  const byPerson = new Map<string, Present>();
  for (const present of people)
    if (present.windowId !== WINDOW_ID && present.person.id !== me?.id) byPerson.set(present.person.id, present);
  return [...byPerson.values()].sort((a, b) => a.person.name.localeCompare(b.person.name));
}

/** A colour nobody here has yet, where there is one. */
function freeColour(): Person['colour'] {
  const taken = new Set(usePeople.getState().people.map(({ person }) => person.colour));
  return PERSON_COLOURS.find((colour) => !taken.has(colour)) ?? PERSON_COLOURS[0];
}

function WhoIAm({ me }: { me: Person | null }) {
  const [name, setName] = useState(me?.name ?? '');
  const [colour, setColour] = useState<Person['colour']>(() => me?.colour ?? freeColour());
  const submit = (event: FormEvent) => {
    event.preventDefault();
    if (name.trim() !== '') settlePerson({ id: me?.id ?? crypto.randomUUID(), name: name.trim(), colour });
  };
  return (
    <form onSubmit={submit} className="space-y-2">
      <Field label="Your name, as others see it" value={name} onChange={setName} maxLength={40} required />
      <div className="flex items-center gap-1.5" role="radiogroup" aria-label="Your colour">
        {PERSON_COLOURS.map((each, index) => (
          <label key={each} className="relative size-7" title={`Colour ${index + 1}`}>
            <input
              type="radio"
              name="colour"
              aria-label={`Colour ${index + 1}`}
              checked={colour === each}
              onChange={() => setColour(each)}
              className="peer absolute inset-0 size-7 cursor-pointer opacity-0"
            />
            <span
              aria-hidden="true"
              className="pointer-events-none block size-7 rounded-full border-4 border-paper outline-2 outline-transparent peer-checked:outline-ink peer-focus-visible:outline-ink"
              style={{ backgroundColor: each }}
            />
          </label>
        ))}
        <Button type="submit" className="ml-auto" disabled={name.trim() === '' || (name.trim() === me?.name && colour === me.colour)}>
          {me ? 'Change' : 'That’s me'}
        </Button>
      </div>
    </form>
  );
}

function Other({ present: { person, where } }: { present: Present }) {
  const project = useProject();
  const shot = where.shotId === null ? undefined : shotById(project, where.shotId);
  const { stage } = where;
  const go = () => {
    if (isStage(stage)) goToStage(project.id, stage);
    if (shot) goToShot(shot.id, Math.min(where.frame, shot.frames - 1));
  };
  return (
    <li className="flex items-center gap-2 text-sm">
      <Face person={person} />
      <span className="min-w-0 flex-1">
        <b className="block truncate">{person.name}</b>
        <span className="block truncate text-soft text-xs">
          {[
            isStage(stage) ? STAGE_NAMES[stage] : 'the past',
            shot ? `shot ${shot.code}` : null,
            shot ? `frame ${where.frame + project.firstFrameNumber}` : null,
          ]
            .filter(Boolean)
            .join(' · ')}
        </span>
      </span>
      <Button tight onClick={go} aria-label={`Go to where ${person.name} is`}>
        Go there
      </Button>
    </li>
  );
}

/** The open shot: who has it in hand, and taking it or giving it back. */
function InHand({ me }: { me: Person | null }) {
  const project = useProject();
  const shot = useShot();
  const hand = usePeople((state) => state.hands.find(({ shotId }) => shotId === shot?.id));
  if (!shot || !me) return null;
  const isMine = hand?.person.id === me.id;
  const act = (what: 'take' | 'take-over' | 'give-back') =>
    void changeHand(project.id, { shotId: shot.id, person: me, act: what }).catch((error: unknown) =>
      toast.error(reasonOf(error, 'The server does not answer. Nothing was changed.')),
    );
  return (
    <div className="flex items-center gap-2 border-line border-t pt-2 text-sm">
      <span className="min-w-0 flex-1">
        Shot {shot.code}{' '}
        {hand ? (
          <span className="text-soft">
            is in {isMine ? 'your' : `${hand.person.name}’s`} hand since{' '}
            {new Date(hand.takenAt).toLocaleTimeString(undefined, { timeStyle: 'short' })}
          </span>
        ) : (
          <span className="text-soft">is in nobody’s hand</span>
        )}
      </span>
      {isMine ? (
        <Button tight onClick={() => act('give-back')}>
          Give back
        </Button>
      ) : hand ? (
        <Button tight kind="warn" onClick={() => act('take-over')}>
          Take over
        </Button>
      ) : (
        <Button tight onClick={() => act('take')}>
          Take in hand
        </Button>
      )}
    </div>
  );
}

/** Who else is there and where, who has which shot in hand, and who I am. It stands there only where others can come. */
export function People() {
  const { me, isShared } = usePeople();
  const others = useOthers();
  const shot = useShot();
  const hand = useOthersHand(shot?.id);
  if (!isShared && others.length === 0) return null;
  const names = others.map(({ person }) => person.name).join(', ');
  return (
    <Popover.Root>
      <Popover.Trigger
        aria-label={`People: ${names === '' ? 'nobody else is here' : names}${hand ? `; ${hand} has shot ${shot?.code} in hand` : ''}`}
        title={names === '' ? 'Nobody else is here' : names}
        className="flex shrink-0 items-center gap-1 rounded-lg border border-line bg-sunk px-1.5 py-0.5 hover:border-edge"
      >
        {others.slice(0, MOST_SHOWN).map(({ person, windowId }) => (
          <Face key={windowId} person={person} />
        ))}
        {others.length > MOST_SHOWN && <span className="numbers text-xs">+{others.length - MOST_SHOWN}</span>}
        {others.length === 0 && (me ? <Face person={me} /> : <span className="px-1 py-1 font-semibold text-xs">Who are you?</span>)}
      </Popover.Trigger>
      <Popover.Portal>
        <Popover.Content align="end" sideOffset={6} className="panel z-50 w-80 space-y-3 p-4 shadow-xl">
          {others.length === 0 ? (
            <p className="text-soft text-sm">Nobody else is in this project just now.</p>
          ) : (
            <ul className="space-y-2" aria-label="Who is here">
              {others.map((present) => (
                <Other key={present.windowId} present={present} />
              ))}
            </ul>
          )}
          <InHand me={me} />
          <WhoIAm key={me?.id ?? 'nobody'} me={me} />
        </Popover.Content>
      </Popover.Portal>
    </Popover.Root>
  );
}
