'use client';
import { useEffect, useMemo, useState } from 'react';
import { bytesText } from '@/core/bytes';
import { DESTINATIONS } from '@/core/check/destinations';
import { decibelsText } from '@/core/count/soundCount';
import { secondsOfMicroseconds } from '@/core/outside/countWords';
import { countText, plural } from '@/core/time/counts';
import { rateFraction } from '@/core/time/rate';
import { timecodeOf } from '@/core/time/timecode';
import { BenchPanel } from '@/features/counting/BenchPanel';
import { DestinationsDialog } from '@/features/counting/DestinationsDialog';
import { type CountedThing, useDeskStore } from '@/features/counting/deskStore';
import { askOwnDestinations, setOwnDestinations, useOwnDestinations } from '@/features/path/ownDestinations';
import { Button } from '@/ui/Button';
import { countingDesk, type DeskAcceptance } from '@/workers/client';

function Row({ what, children }: { what: string; children: string }) {
  return (
    <tr>
      <th scope="row" className="py-0.5 pr-2 text-left font-normal text-soft">
        {what}
      </th>
      <td className="numbers py-0.5 text-right">{children}</td>
    </tr>
  );
}

/** The figures that were counted, told nothing of any plan. */
function Counted({ thing: { count } }: { thing: CountedThing }) {
  const { rate, sound, loop, startMicroseconds, durationMicroseconds } = count;
  return (
    <table className="w-full text-xs">
      <tbody>
        <Row what="made of">{count.made}</Row>
        <Row what="bytes">{`${countText(count.fileBytes)} (${bytesText(count.fileBytes)})`}</Row>
        {count.kind !== 'sound' && <Row what={loop ? 'pictures' : 'frames'}>{countText(count.frames)}</Row>}
        {rate && <Row what="rate">{[rate, ...count.otherRates].map(rateFraction).join(' or ')}</Row>}
        {startMicroseconds !== null && <Row what="first frame at">{secondsOfMicroseconds(startMicroseconds)}</Row>}
        {durationMicroseconds !== null && <Row what="length">{secondsOfMicroseconds(durationMicroseconds)}</Row>}
        {rate && (rate.den === 1 || rate.den === 1001) && <Row what="as timecode">{timecodeOf(count.frames, rate, false)}</Row>}
        {count.width > 0 && <Row what="size">{`${count.width} × ${count.height}`}</Row>}
        {count.colours && <Row what="colours">{count.colours}</Row>}
        {count.keyFrames !== null && <Row what="key frames">{countText(count.keyFrames)}</Row>}
        {loop && <Row what="played">{loop.plays === 0 ? 'loop' : plural(loop.plays, 'time')}</Row>}
        {sound && (
          <>
            <Row what="sound">{`${sound.codec}, ${sound.channels} ch, ${countText(sound.sampleRate)} Hz`}</Row>
            <Row what="samples">{countText(sound.samples)}</Row>
            {sound.peak !== null && <Row what="loudest">{decibelsText(sound.peak)}</Row>}
          </>
        )}
      </tbody>
    </table>
  );
}

/** The plan's figures beside the file's. */
function Beside({ thing }: { thing: CountedThing }) {
  const held = useDeskStore((state) => state.held.get(thing.id));
  if (!held) return null;
  return (
    <table className="w-full text-xs" aria-label="Planned and counted">
      <thead>
        <tr className="text-soft">
          <th scope="col">
            <span className="sr-only">what</span>
          </th>
          <th scope="col" className="text-right font-normal">
            plan
          </th>
          <th scope="col" className="text-right font-normal">
            file
          </th>
        </tr>
      </thead>
      <tbody>
        {held.agreement.lines.map(({ what, asked, counted, agrees }) => (
          <tr key={what}>
            <th scope="row" className="py-0.5 pr-2 text-left font-normal leading-4">
              {what}
            </th>
            <td className="numbers whitespace-nowrap py-0.5 text-right">{asked}</td>
            <td className={`numbers whitespace-nowrap py-0.5 pl-2 text-right ${agrees ? 'text-moss' : 'font-bold text-rust'}`}>
              {counted}
              {agrees ? '' : ' ×'}
            </td>
          </tr>
        ))}
      </tbody>
    </table>
  );
}

/** What each destination says to the thing: it takes it, or refuses it point by point. */
function Destinations({ thing }: { thing: CountedThing }) {
  const [said, setSaid] = useState<DeskAcceptance | null>(null);
  const own = useOwnDestinations((state) => state.own);
  const [isOpen, setOpen] = useState(false);
  const { id } = thing;
  useEffect(askOwnDestinations, []);
  const all = useMemo(() => [...DESTINATIONS, ...own], [own]);
  useEffect(() => {
    let current = true;
    void countingDesk.accept(id, all).then((found) => current && setSaid(found));
    return () => {
      current = false;
    };
  }, [id, all]);
  return (
    <section aria-label="Where it would be refused" className="space-y-2">
      <div className="flex items-baseline justify-between gap-2">
        <h2 className="font-bold font-head text-base">Where it would be refused</h2>
        <Button tight kind="quiet" onClick={() => setOpen(true)}>
          Rules …
        </Button>
      </div>
      {!said && <p className="text-soft text-xs">Being held against their rules …</p>}
      {said?.map(({ destinationId, refusals }) => (
        <details key={destinationId} className="rounded-xl border border-line bg-sunk px-3 py-2">
          <summary className="min-h-6 cursor-pointer">
            <b>{all.find((destination) => destination.id === destinationId)?.name}</b>{' '}
            <span className={refusals.length === 0 ? 'text-moss' : 'text-rust'}>
              {refusals.length === 0 ? 'would take it' : `refuses it on ${plural(refusals.length, 'point')}`}
            </span>
          </summary>
          <ul className="mt-1.5 space-y-1.5 text-xs">
            {refusals.map(({ what, sentence, fix }) => (
              <li key={what}>
                <p className="text-rust">{sentence}</p>
                <p>{fix}</p>
              </li>
            ))}
            {refusals.length === 0 && <li>Size, rate, length, bytes, sound, colours and flashes are as it asks.</li>}
          </ul>
        </details>
      ))}
      <DestinationsDialog open={isOpen} onOpenChange={setOpen} own={own} onOwn={setOwnDestinations} />
    </section>
  );
}

/** The figures of the chosen thing, who would refuse it, and what the editing bench makes of it. */
export function DeskFigures() {
  const thing = useDeskStore((state) => state.things.find(({ id }) => id === state.chosenId));
  return (
    <section aria-label="Figures" className="panel flex flex-col overflow-hidden">
      <div className="min-h-0 flex-1 space-y-4 overflow-y-auto p-4">
        {thing?.kind !== 'counted' ? (
          <p className="text-soft">The figures of what is counted stand here.</p>
        ) : (
          <>
            <div>
              <h2 className="break-all font-bold font-head text-base">{thing.name}</h2>
              <p className="mb-2 text-2xs text-soft">opened and counted frame by frame; told nothing of any plan</p>
              <Beside thing={thing} />
            </div>
            <details open={!useDeskStore.getState().held.has(thing.id)}>
              <summary className="cursor-pointer font-bold">Counted in the file</summary>
              <Counted thing={thing} />
            </details>
            {thing.count.kind !== 'sound' && <Destinations thing={thing} />}
            {thing.count.kind !== 'sound' && <BenchPanel thing={thing} />}
          </>
        )}
      </div>
    </section>
  );
}
