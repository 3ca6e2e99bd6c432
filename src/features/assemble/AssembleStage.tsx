'use client';
import { ArrowLeft, ArrowRight } from 'lucide-react';
import type { PlacedShot } from '@/core/reel/reel';
import { framesOfReel, placedShots } from '@/core/reel/reel';
import { countsOfMoment, lengthCounts, lengthSentence, plural } from '@/core/time/counts';
import { nominalRate } from '@/core/time/rate';
import { NO_SHOT } from '@/core/words';
import { SoundLanes } from '@/features/assemble/SoundLanes';
import { Player } from '@/features/clock/Player';
import { leavingLayers } from '@/features/clock/previews';
import { useProject, useShot } from '@/features/project/hooks';
import { goToShot } from '@/features/project/navigation';
import { Thumb } from '@/features/sheet/Thumb';
import { SoundsPanel } from '@/features/sound/SoundsPanel';
import { make } from '@/features/sync/session';
import { Button } from '@/ui/Button';
import { Fitted } from '@/ui/Fitted';

/** A mark on the measure about every this many pixels' share of the reel. */
const MARKS_AT_MOST = 24;

/** The reel as a measure of ticks: each shot as long as it is, with its picture and where it starts. */
function ReelMeasure({ reel, total }: { reel: readonly PlacedShot[]; total: number }) {
  const project = useProject();
  const open = useShot();
  const perSecond = nominalRate(project.rate);
  const markEvery = perSecond * Math.max(1, Math.ceil(total / perSecond / MARKS_AT_MOST));
  const marks = Array.from({ length: Math.ceil(total / markEvery) }, (_, index) => index * markEvery);
  return (
    <div className="px-4 pb-4">
      <div className="relative h-8">
        {marks.map((frame) => (
          <span
            key={frame}
            className="numbers absolute bottom-0 border-edge border-l pb-1 pl-1 text-2xs text-soft leading-3"
            style={{ left: `${(frame * 100) / total}%` }}
          >
            {frame + project.firstFrameNumber}
          </span>
        ))}
      </div>
      <ol className="flex gap-0" aria-label="Reel">
        {reel.map(({ item, shot, startFrame, endFrame }) => (
          <li key={item.id} className="min-w-0 pr-1" style={{ width: `${(shot.frames * 100) / total}%` }}>
            <button
              type="button"
              onClick={() => goToShot(shot.id)}
              aria-pressed={shot.id === open?.id}
              aria-label={`Shot ${shot.code}, frames ${startFrame + project.firstFrameNumber} to ${endFrame - 1 + project.firstFrameNumber}`}
              className={`block w-full overflow-hidden rounded-lg border text-left ${shot.id === open?.id ? 'border-2 border-moss bg-lime-wash' : 'border-line bg-sunk hover:border-edge'}`}
            >
              <span className="flex h-[72px] gap-px overflow-hidden bg-white">
                {[0.08, 0.5, 0.92].map((part) => (
                  <span key={part} className="w-32 shrink-0 grow">
                    <Thumb size={project.size} widthPx={128} layers={leavingLayers(shot, Math.floor((shot.frames - 1) * part))} />
                  </span>
                ))}
              </span>
              <span className="block truncate px-2 py-1 text-xs">
                <span className="numbers font-semibold">{shot.code}</span> {shot.name}{' '}
                <span className="numbers text-2xs text-soft">{shot.frames} fr</span>
              </span>
            </button>
          </li>
        ))}
      </ol>
      <SoundLanes total={total} />
    </div>
  );
}

/** Shots one after another, each with its exact start in every count. */
export function AssembleStage() {
  const project = useProject();
  const open = useShot();
  const reel = placedShots(project);
  const total = framesOfReel(project);
  const openIndex = reel.findIndex(({ shot }) => shot.id === open?.id);
  const openItem = reel[openIndex]?.item;
  const move = (by: -1 | 1) => openItem && make({ type: 'moveItem', itemId: openItem.id, index: openIndex + by });
  if (!open) return <p className="p-8">{NO_SHOT}</p>;
  const counts = lengthCounts(total, project.rate);
  return (
    <div className="grid h-full grid-cols-[minmax(0,1fr)_330px] grid-rows-[minmax(0,1fr)_auto] gap-2.5">
      <section aria-label="Picture" className="panel flex bg-desk! p-3.5">
        <Fitted width={project.size.width} height={project.size.height} className="flex-1">
          <Player className="h-full w-full" />
        </Fitted>
      </section>
      <section aria-label="Totals" className="panel row-span-2 flex flex-col overflow-hidden">
        <div className="border-line border-b p-3.5">
          <h2 className="font-bold">The reel</h2>
          <p className="mt-1 font-bold font-head text-4xl tabular-nums leading-9">{total}</p>
          <p className="text-soft">{lengthSentence(total, project.rate)}</p>
          <p className="numbers mt-1 text-xs">
            {counts.timecode} · {counts.footage} ft · {counts.rate}
          </p>
        </div>
        <div className="min-h-0 flex-1 overflow-y-auto p-2">
          <table className="w-full text-left">
            <thead className="text-soft text-xs">
              <tr>
                {['Shot', 'From', 'To', 'Frames', 'Starts at'].map((head) => (
                  <th key={head} scope="col" className="px-2 py-1 font-normal">
                    {head}
                  </th>
                ))}
              </tr>
            </thead>
            <tbody>
              {reel.map(({ item, shot, startFrame, endFrame }) => (
                <tr key={item.id} className={shot.id === open.id ? 'bg-lime-wash' : 'hover:bg-sunk'}>
                  <th scope="row" className="rounded-l-lg px-2 py-1.5">
                    <button type="button" className="numbers font-semibold" onClick={() => goToShot(shot.id)}>
                      {shot.code}
                    </button>
                  </th>
                  <td className="numbers px-2 py-1.5 text-xs">{startFrame + project.firstFrameNumber}</td>
                  <td className="numbers px-2 py-1.5 text-xs">{endFrame - 1 + project.firstFrameNumber}</td>
                  <td className="numbers px-2 py-1.5 text-xs">{shot.frames}</td>
                  <td className="numbers rounded-r-lg px-2 py-1.5 text-xs">
                    {countsOfMoment(startFrame, project.rate, project.firstFrameNumber).timecode}
                  </td>
                </tr>
              ))}
              <tr className="border-line border-t font-bold">
                <th scope="row" className="px-2 py-1.5">
                  {plural(reel.length, 'shot')}
                </th>
                <td className="numbers px-2 py-1.5 text-xs">{project.firstFrameNumber}</td>
                <td className="numbers px-2 py-1.5 text-xs">{project.firstFrameNumber + total - 1}</td>
                <td className="numbers px-2 py-1.5 text-xs">{total}</td>
                <td className="numbers px-2 py-1.5 text-xs">{counts.seconds} s</td>
              </tr>
            </tbody>
          </table>
          <h3 className="mt-3 px-2 font-bold">Sounds of shot {open.code}</h3>
          <div className="px-2">
            <SoundsPanel shot={open} />
          </div>
        </div>
        <div className="flex gap-1.5 border-line border-t p-3.5">
          <Button disabled={openIndex <= 0} onClick={() => move(-1)}>
            <ArrowLeft size={13} /> {open.code} earlier
          </Button>
          <Button disabled={openIndex >= reel.length - 1} onClick={() => move(1)}>
            {open.code} later <ArrowRight size={13} />
          </Button>
        </div>
      </section>
      <section aria-label="Measure" className="panel overflow-hidden">
        <ReelMeasure reel={reel} total={total} />
      </section>
    </div>
  );
}
