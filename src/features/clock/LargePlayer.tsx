'use client';
import { type ReactNode, type RefObject, useEffect } from 'react';
import { useShallow } from 'zustand/react/shallow';
import { plural } from '@/core/time/counts';
import { BurnIn } from '@/features/clock/BurnIn';
import { Player } from '@/features/clock/Player';
import { PlayerBar } from '@/features/clock/PlayerBar';
import { usePlayerStore, usePlayStore, usePlayWay } from '@/features/clock/playStore';
import { RangeMarks } from '@/features/clock/RangeMarks';
import { useProject } from '@/features/project/hooks';
import { goToFrame } from '@/features/project/navigation';
import { useViewStore } from '@/features/project/viewStore';
import { Button } from '@/ui/Button';
import { Fitted } from '@/ui/Fitted';

const MOST_LATE_SHOWN = 8;

/** What playing had to say: whether every frame was on the screen in its own time, and which were not. */
function PlayReport({ firstNumber }: { firstNumber: number }) {
  const { ticks, late, lateFrames, preparing, byTheSound, soundTrouble } = usePlayStore();
  const { speed, everySecond } = usePlayerStore(useShallow(({ speed, everySecond }) => ({ speed, everySecond })));
  const playing = useViewStore((state) => state.playing);
  if (preparing) return <p className="text-soft text-xs">Getting pictures and sound ready …</p>;
  if (ticks === 0)
    return <p className="text-soft text-xs">Space plays at the true rate. Select frames on the sheet and press L to loop over them.</p>;
  const slowed = speed.num === speed.den ? '' : ` at ${speed.num}/${speed.den} of the true rate`;
  const lighter = everySecond ? ', half size and every second frame' : '';
  if (late === 0)
    return (
      <p className="text-moss text-xs">
        {playing ? 'So far ' : ''}
        {plural(ticks, 'frame')} played{slowed}
        {lighter}, every one in its own time{byTheSound ? ' by the clock of the sound' : ''}.
        {soundTrouble && <span className="text-rust"> {soundTrouble}</span>}
      </p>
    );
  const where = [...new Set(lateFrames)].slice(0, MOST_LATE_SHOWN);
  return (
    <p className="flex flex-wrap items-center gap-x-1.5 text-rust text-xs">
      {late} of {plural(ticks, 'frame')} were late on this machine{slowed}
      {lighter}, first
      {where.map((frame) => (
        <button key={frame} type="button" className="numbers underline" onClick={() => goToFrame(frame)}>
          {frame + firstNumber}
        </button>
      ))}
      {soundTrouble && <span>{soundTrouble}</span>}
      {everySecond ? null : <span className="text-soft">A lighter preview may keep up.</span>}
    </p>
  );
}

/** The player as large as there is room, with how it plays; `over` lies on the picture. */
export function LargePlayer({ over }: { over?: ReactNode }) {
  const project = useProject();
  const way = usePlayWay();
  const playing = useViewStore((state) => state.playing);
  const { burnIn, marked, everySecond, fullWindow } = usePlayerStore(
    useShallow(({ burnIn, marked, everySecond, fullWindow }) => ({ burnIn, marked, everySecond, fullWindow })),
  );

  useEffect(() => {
    usePlayerStore.setState({ isShown: true });
    return () => usePlayerStore.setState({ isShown: false, fullWindow: false, backwards: false });
  }, []);

  useEffect(() => {
    if (!fullWindow) return;
    const leave = (event: KeyboardEvent) => event.key === 'Escape' && usePlayerStore.setState({ fullWindow: false });
    window.addEventListener('keydown', leave);
    return () => window.removeEventListener('keydown', leave);
  }, [fullWindow]);

  const onPicture = (canvas: RefObject<HTMLCanvasElement | null>, painted: number) => (
    <>
      {!playing && marked && <RangeMarks picture={canvas} painted={painted} range={marked} />}
      {!playing && over}
      {playing && everySecond && (
        <p className="absolute top-2 right-2 rounded bg-ink px-2 py-0.5 text-2xs text-paper">Lighter: half size, every second frame</p>
      )}
      {burnIn && <BurnIn />}
    </>
  );
  return (
    <section
      aria-label="Player"
      className={fullWindow ? 'fixed inset-0 z-40 flex flex-col gap-2 bg-desk p-3' : 'panel flex flex-col gap-2 bg-desk! p-3'}
    >
      <Fitted width={project.size.width} height={project.size.height} className="flex-1">
        <Player className="h-full w-full" way={way} isExact={marked !== null} over={onPicture} />
      </Fitted>
      <div className="flex items-center gap-3">
        <div className="min-w-0 flex-1">
          <PlayerBar />
        </div>
        {fullWindow && (
          <Button kind="dark" onClick={() => usePlayerStore.setState({ fullWindow: false })}>
            Leave the full window
          </Button>
        )}
      </div>
      <PlayReport firstNumber={project.firstFrameNumber} />
    </section>
  );
}
