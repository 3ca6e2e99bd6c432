'use client';
import { useEffect, useState } from 'react';
import { BENCH_SETTINGS, type BenchSettings } from '@/core/outside/editingBench';
import { plural } from '@/core/time/counts';
import { KNOWN_RATES, type Rate, rateName, sameRate } from '@/core/time/rate';
import { secondsText } from '@/core/time/seconds';
import { type CountedThing, useDeskStore } from '@/features/counting/deskStore';
import { saveBlob } from '@/features/project/saveText';
import { reasonOf } from '@/features/sync/reasonOf';
import { Button } from '@/ui/Button';
import { Select } from '@/ui/Select';
import { toast } from '@/ui/toast';
import { countingDesk, type DeskBench, type HoldOrder } from '@/workers/client';

const RATES = KNOWN_RATES.filter(({ rate }) => rate.num / rate.den >= 12);
const rateOptions = RATES.map(({ name }) => ({ value: name, label: name }));
const rateNamed = (name: string): Rate => RATES.find((each) => each.name === name)?.rate ?? BENCH_SETTINGS.pictureRate;

const SOUND_PLACES = [
  { value: '0', label: 'with the picture' },
  ...[1, 2, 12].map((frames) => ({ value: String(frames), label: `${plural(frames, 'frame')} later` })),
  ...[1, 2, 12].map((frames) => ({ value: String(-frames), label: `${plural(frames, 'frame')} earlier` })),
];

/** What comes out of the bench; while pictures are looked at again for it, how far that is. */
function useBench(thing: CountedThing, settings: BenchSettings): { readonly bench: DeskBench | null; readonly words: string | null } {
  const [made, setMade] = useState<{ bench: DeskBench | null; words: string | null }>({ bench: null, words: null });
  const against = useDeskStore((state) => state.against);
  const held = useDeskStore((state) => state.held);
  const { id } = thing;
  // biome-ignore lint/correctness/useExhaustiveDependencies: what it is held against is there once it was held
  useEffect(() => {
    let current = true;
    const order: HoldOrder | null = against.kind === 'plan' || (against.kind === 'thing' && against.id !== id) ? against : null;
    const tell = (frames: number, all: number) =>
      current && setMade({ bench: null, words: `Looking at it once more: ${frames} of ${plural(all, 'picture')}` });
    countingDesk.bench(id, settings, order, tell).then(
      (bench) => current && setMade({ bench, words: bench ? null : 'Stopped.' }),
      (error: unknown) => current && setMade({ bench: null, words: `It could not be looked at: ${reasonOf(error)}` }),
    );
    return () => {
      current = false;
    };
  }, [id, settings, against, held]);
  return made;
}

/** Writes the film that comes out, so that it can be seen. */
async function saveFilm({ id, name }: CountedThing, settings: BenchSettings): Promise<void> {
  let isStopped = false;
  const stop = () => {
    isStopped = true;
    void countingDesk.stopBench(id);
  };
  const tell = (words: string) =>
    toast.loading(words, {
      id: 'bench',
      duration: Number.POSITIVE_INFINITY,
      action: { label: 'Stop', onClick: stop },
    });
  tell('Writing what comes out of the bench …');
  try {
    const { film, unheard } = await countingDesk.benchFilm(id, settings, (frames, all) =>
      tell(`Writing what comes out: ${frames} of ${all} frames`),
    );
    saveBlob(film, `${name.replace(/^.*\//, '').replace(/\.[^.]*$/, '')}_bench.webm`);
    toast.success(`What comes out of the bench was saved${unheard === null ? '.' : `, without its sound: ${unheard}.`}`);
  } catch (error) {
    if (isStopped) toast.message('Stopped: nothing was written.');
    else toast.error(`It was not written: ${error instanceof Error ? error.message : String(error)}.`);
  } finally {
    toast.dismiss('bench');
  }
}

/** The editing bench: a stand-in that takes the thing by settings of its own, and shows what would come out. */
export function BenchPanel({ thing }: { thing: CountedThing }) {
  const [settings, setSettings] = useState(BENCH_SETTINGS);
  const { bench, words } = useBench(thing, settings);
  const change = (part: Partial<BenchSettings>) => setSettings({ ...settings, ...part });
  const isPictures = thing.count.kind === 'pictures';
  const isHeard = thing.count.kind === 'film' && thing.count.sound !== null;
  return (
    <section aria-label="In the editing bench" className="space-y-2">
      <h2 className="font-bold font-head text-base">In the editing bench</h2>
      <p className="text-2xs text-soft">A stand-in of our own: it takes this file as a program would that nobody has set up.</p>
      <div className="grid grid-cols-2 gap-2">
        {isPictures && (
          <Select
            label="Pictures are read at"
            value={rateName(settings.pictureRate)}
            options={rateOptions}
            onChange={(name) => change({ pictureRate: rateNamed(name) })}
          />
        )}
        {isPictures && (
          <Select
            label="Files come by"
            value={settings.order}
            options={[
              { value: 'numbers', label: 'their numbers' },
              { value: 'letters', label: 'their letters' },
            ]}
            onChange={(order) => change({ order })}
          />
        )}
        {isPictures && (
          <Select
            label="A missing number is"
            value={settings.missing}
            options={[
              { value: 'the picture before', label: 'the picture before' },
              { value: 'nothing', label: 'closed up' },
              { value: 'black', label: 'black' },
            ]}
            onChange={(missing) => change({ missing })}
          />
        )}
        {isPictures && (
          <Select
            label="Transparency is"
            value={settings.transparency}
            options={[
              { value: 'straight', label: 'straight' },
              { value: 'premultiplied', label: 'premultiplied' },
            ]}
            onChange={(transparency) => change({ transparency })}
          />
        )}
        {isHeard && (
          <Select
            label="Sound is laid"
            value={String(settings.soundLateFrames)}
            options={SOUND_PLACES}
            onChange={(frames) => change({ soundLateFrames: Number(frames) })}
          />
        )}
        <Select
          label="Everything is shown at"
          value={settings.outRate ? rateName(settings.outRate) : 'own'}
          options={[{ value: 'own', label: 'its own rate' }, ...rateOptions]}
          onChange={(name) => change({ outRate: name === 'own' ? null : rateNamed(name) })}
        />
      </div>
      {!isPictures && (
        <label className="flex min-h-6 items-center gap-2 text-xs">
          <input
            type="checkbox"
            className="accent-ink"
            checked={settings.roundsRates}
            onChange={(event) => change({ roundsRates: event.target.checked })}
          />
          Rates are rounded to whole numbers
        </label>
      )}
      {words && (
        <p role="status" className="flex items-center justify-between gap-2 text-soft text-xs">
          {words}
          {words.startsWith('Looking') && <Button onClick={() => void countingDesk.stopBench(thing.id)}>Stop</Button>}
        </p>
      )}
      {bench && (
        <div className="space-y-1.5 rounded-xl border border-line bg-sunk p-3">
          <p>
            Comes out as <b className="numbers">{plural(bench.sourceOf.length, 'frame')}</b> at{' '}
            <b className="numbers">{rateName(bench.rate)}</b>: <b className="numbers">{secondsText(bench.sourceOf.length, bench.rate)} s</b>
            .
          </p>
          {bench.held && <p className={bench.held.agreement.agrees ? 'text-moss' : 'text-rust'}>{bench.held.agreement.headline}</p>}
          {bench.fixes.map((fix) => (
            <p key={fix} className="font-bold">
              {fix}
            </p>
          ))}
          {!bench.held && bench.fixes.length === 0 && !isPictures && thing.count.rate && sameRate(bench.rate, thing.count.rate) && (
            <p className="text-moss">Nothing of it is changed.</p>
          )}
          <Button onClick={() => void saveFilm(thing, settings)}>Save this film, to see it</Button>
        </div>
      )}
    </section>
  );
}
