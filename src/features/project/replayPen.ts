import { create } from 'zustand';
import { type StrokeRecording, strokeRecordingReader } from '@/contracts/strokes';
import { STOP } from '@/core/words';
import { WHOLE_PAPER } from '@/features/project/paperView';
import { useViewStore } from '@/features/project/viewStore';
import { toast } from '@/ui/toast';

/*
 * A stand-in for a pen: it plays recorded strokes, with their pressure, tilt and pace, to the paper as the browser tells of a real pen,
 * so that they go the very same way. A press on the paper stops it.
 */

/** The paper that can be drawn on, while there is one; whether a recording is being played to it. */
export const useReplayStore = create<{ readonly paper: HTMLElement | null; readonly isPlaying: boolean }>(() => ({
  paper: null,
  isPlaying: false,
}));

/** The pointer no real pen has. */
const POINTER_ID = 7_013;

type At = StrokeRecording['strokes'][number]['points'][number];

/** Tells the paper of the pen at a point. */
function tell(
  paper: HTMLElement,
  { size }: StrokeRecording,
  type: 'pointerdown' | 'pointermove' | 'pointerup',
  [x, y, pressure, degrees]: At,
): void {
  const box = paper.getBoundingClientRect();
  const isUp = type === 'pointerup';
  paper.dispatchEvent(
    new PointerEvent(type, {
      pointerId: POINTER_ID,
      pointerType: 'pen',
      bubbles: true,
      cancelable: true,
      clientX: box.left + (x / size.width) * box.width,
      clientY: box.top + (y / size.height) * box.height,
      button: type === 'pointermove' ? -1 : 0,
      buttons: isUp ? 0 : 1,
      pressure: isUp ? 0 : pressure,
      altitudeAngle: (degrees * Math.PI) / 180,
    }),
  );
}

const nextFrame = (): Promise<number> => new Promise((resolve) => requestAnimationFrame(resolve));

/**
 * Plays a recording to the paper, at its own pace or as fast as the screen shows frames. Resolves when it is over, or was stopped by a
 * press on the paper, `stop`, or the paper going away; what was drawn by then stays.
 */
export async function playStrokes(recording: StrokeRecording, stop: AbortSignal, isPaced = true): Promise<void> {
  const { paper, isPlaying } = useReplayStore.getState();
  if (!paper || isPlaying) return;
  const own = new AbortController();
  const isOver = () => stop.aborted || own.signal.aborted || useReplayStore.getState().paper !== paper;
  const onPress = (event: PointerEvent) => event.pointerId !== POINTER_ID && own.abort();
  document.addEventListener('pointerdown', onPress, { capture: true, signal: own.signal });
  useReplayStore.setState({ isPlaying: true });
  const { brush } = useViewStore.getState();
  // It was recorded on paper that lies straight.
  useViewStore.setState({ paperView: WHOLE_PAPER });
  try {
    await nextFrame();
    const beganAt = performance.now();
    for (const { colour, sizePx, points } of recording.strokes) {
      if (isOver()) break;
      useViewStore.setState({ brush: { ...brush, tool: 'brush', colour, sizePx } });
      const [first, ...rest] = points;
      if (!first) continue;
      while (isPaced && !isOver() && performance.now() - beganAt < first[4]) await nextFrame();
      tell(paper, recording, 'pointerdown', first);
      let last = first;
      for (const point of rest) {
        while (isPaced && !isOver() && performance.now() - beganAt < point[4]) await nextFrame();
        if (isOver()) break;
        tell(paper, recording, 'pointermove', point);
        last = point;
      }
      tell(paper, recording, 'pointerup', last);
      if (!isPaced) await nextFrame();
    }
  } finally {
    own.abort();
    useViewStore.setState({ brush });
    useReplayStore.setState({ isPlaying: false });
  }
}

/** Plays the sock of the demo that is left to draw. */
export async function watchItDrawn(): Promise<void> {
  const stop = new AbortController();
  const words = 'A recorded pen is drawing. Press the paper to stop it.';
  toast.message(words, { id: 'replay', duration: Number.POSITIVE_INFINITY, action: { label: STOP, onClick: () => stop.abort() } });
  try {
    const read = strokeRecordingReader.read((await import('@/features/project/recordings/sock13.json')).default);
    if (!read.ok) throw new Error(read.reason);
    await playStrokes(read.value, stop.signal);
  } catch (error) {
    toast.error(`It could not be drawn: ${error instanceof Error ? error.message : String(error)}.`);
  } finally {
    toast.dismiss('replay');
  }
}
