'use client';
import { useEffect, useRef, useState } from 'react';
import type { Digest, Level, Shot, Size } from '@/core/document/model';
import type { StackLayer } from '@/core/render/stacks';
import { drawingShownAt } from '@/core/sheet/reading';
import { askAtOnce } from '@/features/draw/askAtOnce';
import { BrushRing } from '@/features/draw/BrushRing';
import { Desk } from '@/features/draw/desk';
import { GuideTag } from '@/features/draw/GuideTag';
import { putPartDown, usePartStore } from '@/features/draw/part';
import { SharedTag } from '@/features/draw/SharedTag';
import { useLaidDrawing } from '@/features/draw/useLaidDrawing';
import { useNextReady } from '@/features/draw/useNextReady';
import { guidesAsLines, seenLayers, useLayersPainted, useOnionPainted } from '@/features/draw/usePainted';
import { usePaperPointer } from '@/features/draw/usePaperPointer';
import { sizeOnScreen, useRoom } from '@/features/draw/useRoom';
import { ViewTag } from '@/features/draw/ViewTag';
import { useFrameOf } from '@/features/project/hooks';
import { paperTransform } from '@/features/project/paperView';
import { useReplayStore } from '@/features/project/replayPen';
import { useViewStore } from '@/features/project/viewStore';
import { Later, part as laterPart } from '@/ui/later';

const NOT_LAID = {
  coming: 'The drawing is still on its way: try again in a moment.',
  away: 'This drawing’s picture is on the server, which does not answer. It is asked again until it does; what you draw meanwhile is safe and lies on it when it comes.',
  missing: 'This drawing’s picture is not in the store. Clear the drawing to draw it again, or undo what made it.',
} as const;

/** What is round a part that was picked up, once one can be. */
const partHandles = laterPart(async () => (await import('@/features/draw/PartHandles')).PartHandles);
const partBar = laterPart(async () => (await import('@/features/draw/PartHandles')).PartBar);

/** From how many screen pixels a picture's pixel on they are shown as squares. */
const SQUARES_FROM = 3;

const LAYER = 'pointer-events-none absolute inset-0 h-full w-full';

/** One layer, or several normal ones together: what has a blend mode has a canvas of its own, so that it meets all that lies below. */
function AboveLayers({ size, layers, asLines }: { size: Size; layers: readonly StackLayer[]; asLines: ReadonlySet<Digest> }) {
  const groups: StackLayer[][] = [];
  for (const layer of layers) {
    const last = groups.at(-1);
    if (last && !layer.blend && !last[0]?.blend) last.push(layer);
    else groups.push([layer]);
  }
  return groups.map((group, place) => (
    // biome-ignore lint/suspicious/noArrayIndexKey: a group is what lies in that place
    <AboveCanvas key={place} size={size} layers={group} asLines={asLines} />
  ));
}

function AboveCanvas({ size, layers, asLines }: { size: Size; layers: readonly StackLayer[]; asLines: ReadonlySet<Digest> }) {
  const [first] = layers;
  const blended = first?.blend !== undefined;
  const canvas = useLayersPainted(size, blended && first ? [{ picture: first.picture, opacityPercent: 100 }] : layers, false, asLines);
  const style = blended ? { mixBlendMode: first.blend, opacity: first.opacityPercent / 100 } : {};
  return <canvas ref={canvas} className={LAYER} style={style} />;
}

/** The paper: what lies below, the onion skin, the drawing under the pen, what lies above. */
export function Paper({ shot, level, size }: { shot: Shot; level: Level; size: Size }) {
  const frame = useFrameOf(shot);
  const page = useRef<HTMLCanvasElement>(null);
  const ink = useRef<HTMLCanvasElement>(null);
  const paper = useRef<HTMLDivElement>(null);
  // Whoever plays recorded strokes finds the paper here.
  useEffect(() => {
    useReplayStore.setState({ paper: paper.current });
    return () => useReplayStore.setState({ paper: null });
  }, []);
  useEffect(askAtOnce, []);
  const { room, fit } = useRoom(size);
  const [desk, setDesk] = useState<Desk | null>(null);
  const tool = useViewStore((state) => state.brush.tool);
  const view = useViewStore((state) => state.paperView);
  const part = usePartStore((state) => state.part);
  const place = shot.levels.indexOf(level);
  const aloneLevelId = useViewStore((state) => state.aloneLevelId);
  const seenSize = sizeOnScreen(size, (fit.width / size.width) * view.zoom);
  const onPaper = {
    level,
    below: seenLayers(shot.levels.slice(0, place), frame, aloneLevelId),
    above: seenLayers(shot.levels.slice(place + 1), frame, aloneLevelId),
  };
  const guideLines = useViewStore((state) => state.guideLines);
  const asLines = guidesAsLines(shot, frame, guideLines);
  const below = useLayersPainted(seenSize, onPaper.below, true, asLines);
  const onion = useOnionPainted(seenSize, shot, level, frame);
  const drawing = drawingShownAt(level, frame);

  useEffect(() => {
    if (page.current && ink.current) setDesk(new Desk(page.current, ink.current, size));
  }, [size]);

  // biome-ignore lint/correctness/useExhaustiveDependencies: the sizes are what counts of both
  useEffect(() => desk?.resize(seenSize, fit), [desk, seenSize.width, seenSize.height, fit]);

  const trouble = useLaidDrawing(paper, desk, drawing, seenSize.width);
  useNextReady(shot, level, frame, seenSize.width);

  useEffect(() => putPartDown, []);
  useEffect(() => {
    useViewStore.setState(({ papers }) => ({ papers: papers + 1 }));
    return () => useViewStore.setState(({ papers }) => ({ papers: papers - 1 }));
  }, []);

  const hindrance = () => (desk?.ready ? null : NOT_LAID[trouble ?? 'coming']);
  const { loop, handlers } = usePaperPointer(room, desk, size, fit, hindrance, onPaper);

  const screenPxPerPixel = (fit.width / size.width) * view.zoom;
  return (
    <div
      ref={room}
      className={`absolute inset-0 touch-none overflow-hidden ${tool === 'part' && part ? 'cursor-default' : 'cursor-crosshair'}`}
      {...handlers}
    >
      <div
        ref={paper}
        role="application"
        aria-label={`Paper: ${level.name}${drawing ? `, drawing ${drawing.number}` : ', blank'}`}
        data-testid="paper"
        data-laid="coming"
        className="absolute isolate bg-white shadow-[0_2px_6px_rgba(29,42,35,0.2)]"
        style={{
          width: fit.width,
          height: fit.height,
          left: `calc(50% - ${fit.width / 2}px)`,
          top: `calc(50% - ${fit.height / 2}px)`,
          transform: paperTransform(view),
          imageRendering: screenPxPerPixel >= SQUARES_FROM ? 'pixelated' : 'auto',
        }}
      >
        <canvas ref={below} className={LAYER} />
        <canvas ref={onion} className={LAYER} />
        <div className={LAYER} style={{ opacity: level.visible ? level.opacityPercent / 100 : 0, mixBlendMode: level.blend }}>
          <canvas ref={page} className={LAYER} />
          <canvas ref={ink} className="pointer-events-none absolute" width={0} height={0} />
        </div>
        <AboveLayers size={seenSize} layers={onPaper.above} asLines={asLines} />
        {loop && loop.length > 1 && (
          <svg className={LAYER} viewBox={`0 0 ${size.width} ${size.height}`} aria-hidden="true">
            <polygon
              points={loop.map(({ x, y }) => `${x},${y}`).join(' ')}
              className="fill-lime/20 stroke-ink"
              strokeDasharray="6 4"
              vectorEffect="non-scaling-stroke"
            />
          </svg>
        )}
        <BrushRing size={size} screenPxPerPixel={screenPxPerPixel} />
        {part && <Later of={partHandles} props={{ part, size, screenPxPerPixel, view }} isWindow />}
      </div>
      <SharedTag level={level} drawing={drawing} />
      <GuideTag shot={shot} frame={frame} />
      <ViewTag />
      {part && <Later of={partBar} props={{}} isWindow />}
      {trouble && (
        <p role="status" className="absolute inset-x-6 top-6 rounded-lg bg-paper/90 p-3 text-center text-rust text-sm">
          {NOT_LAID[trouble]}
        </p>
      )}
    </div>
  );
}
