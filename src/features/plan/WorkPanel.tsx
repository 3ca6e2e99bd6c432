'use client';
import type { Shot } from '@/core/sheet/document';
import { timingShare, workOfShot } from '@/core/sheet/work';
import { countText } from '@/core/time/counts';
import { useProject } from '@/features/project/hooks';

/** The work in the open shot: drawings to make, drawings a second, and how long they stand. */
export function WorkPanel({ shot }: { shot: Shot }) {
  const project = useProject();
  const work = workOfShot(shot);
  const share = timingShare(shot, project.rate);
  const parts = [
    { words: 'ones', frames: share.ones, colour: 'bg-ink' },
    { words: 'twos', frames: share.twos, colour: 'bg-moss' },
    { words: 'threes', frames: share.threes, colour: 'bg-lime' },
    { words: 'longer', frames: share.longer, colour: 'bg-edge' },
    { words: 'holds', frames: share.holds, colour: 'bg-[#bfd3ce]' },
  ].filter((part) => part.frames > 0);
  const total = parts.reduce((sum, part) => sum + part.frames, 0);
  const perSecond = ((work.drawings * project.rate.num) / (shot.frames * project.rate.den)).toFixed(1);
  return (
    <section aria-label="The work" className="space-y-2 border-line border-t p-3.5">
      <h2 className="font-bold">The work</h2>
      <div className="flex items-center gap-3">
        <span className="font-bold font-head text-4xl tabular-nums leading-9">{countText(work.drawings)}</span>
        <span className="text-soft leading-4">
          drawings for {countText(shot.frames)} frames
          <br />
          {perSecond} a second, {countText(work.drawings - work.drawn)} left to draw
        </span>
      </div>
      {total > 0 && (
        <>
          <div
            className="flex h-3 overflow-hidden rounded-full"
            role="img"
            aria-label={parts.map((part) => `${part.words} ${Math.round((part.frames * 100) / total)} %`).join(', ')}
          >
            {parts.map((part) => (
              <span key={part.words} className={part.colour} style={{ width: `${(part.frames * 100) / total}%` }} />
            ))}
          </div>
          <ul className="flex flex-wrap gap-x-3 gap-y-0.5 text-xs">
            {parts.map((part) => (
              <li key={part.words} className="flex items-center gap-1.5">
                <span className={`inline-block size-2 rounded-sm ${part.colour}`} />
                <span>
                  {part.words} <span className="tabular-nums">{Math.round((part.frames * 100) / total)} %</span>
                </span>
              </li>
            ))}
          </ul>
          <p className="text-soft text-xs">
            Of {countText(total)} exposed frames on animated levels; a hold is longer than a third of a second.
          </p>
        </>
      )}
    </section>
  );
}
