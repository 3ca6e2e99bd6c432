'use client';
import { type PointerEvent, useEffect, useMemo, useRef, useState } from 'react';
import { toast } from 'sonner';
import { layersAt, stackKey } from '@/core/handover/framePlan';
import type { Level, Shot, Size } from '@/core/sheet/document';
import { drawingShownAt } from '@/core/sheet/reading';
import { Desk, type InkPoint } from '@/features/draw/desk';
import { deskKey, keepStroke, type StrokeTarget, strokeTarget } from '@/features/draw/keepStroke';
import { onionSheets } from '@/features/draw/onion';
import { drawWith, type PictureTrouble } from '@/features/project/pictures';
import { useViewStore } from '@/features/project/viewStore';

const NOT_LAID = {
  coming: 'The drawing is still on its way: try again in a moment.',
  away: 'This drawing’s picture is on the server, which doesn’t answer. It is asked again until it does; drawings seen before can be drawn on meanwhile.',
  missing: 'This drawing’s picture is not in the store. Clear the drawing to draw it anew, or undo what made it.',
} as const;

const TINT = { before: '--color-ochre-mark', after: '--color-violet-mark' } as const;

/** A canvas painted with pictures, again whenever the key changes. */
function usePainted(
  size: Size,
  key: string,
  digests: readonly string[],
  paint: (context: CanvasRenderingContext2D, bitmaps: readonly ImageBitmap[]) => void,
) {
  const canvas = useRef<HTMLCanvasElement>(null);
  // biome-ignore lint/correctness/useExhaustiveDependencies: the key stands for everything painted
  useEffect(() => {
    const context = canvas.current?.getContext('2d');
    // Nothing is better than what belonged to another frame, for as long as the right pictures are on their way.
    context?.clearRect(0, 0, size.width, size.height);
    return drawWith(digests, (bitmaps) => {
      if (context) paint(context, bitmaps);
    });
  }, [key, size]);
  return canvas;
}

function useLevelsPainted(size: Size, levels: readonly Level[], frame: number) {
  const layers = layersAt(
    levels.filter((level) => level.visible),
    frame,
  );
  const digests = layers.map((layer) => layer.picture);
  return usePainted(size, stackKey(layers), digests, (context, bitmaps) => {
    bitmaps.forEach((bitmap, index) => {
      context.globalAlpha = (layers[index]?.opacityPercent ?? 100) / 100;
      context.drawImage(bitmap, 0, 0);
    });
  });
}

function useOnionPainted(size: Size, level: Level, frame: number) {
  const onion = useViewStore((state) => state.onion);
  const sheets = onionSheets(level, frame, onion);
  const key = sheets.map((sheet) => `${sheet.picture}@${sheet.alpha}${sheet.side}`).join('+');
  const digests = sheets.map((sheet) => sheet.picture);
  return usePainted(size, key, digests, (context, bitmaps) => {
    const style = getComputedStyle(context.canvas);
    sheets.forEach((sheet, index) => {
      const tinted = new OffscreenCanvas(size.width, size.height);
      const ink = tinted.getContext('2d');
      if (!ink) return;
      ink.drawImage(bitmaps[index] as ImageBitmap, 0, 0);
      ink.globalCompositeOperation = 'source-in';
      ink.fillStyle = style.getPropertyValue(TINT[sheet.side]);
      ink.fillRect(0, 0, size.width, size.height);
      context.globalAlpha = sheet.alpha;
      context.drawImage(tinted, 0, 0);
    });
  });
}

/** The paper: what lies below, the onion skin, the drawing under the pen, what lies above. */
export function Paper({ shot, level, frame, size }: { shot: Shot; level: Level; frame: number; size: Size }) {
  const page = useRef<HTMLCanvasElement>(null);
  const [desk, setDesk] = useState<Desk | null>(null);
  const [laid, setLaid] = useState<'coming' | 'ready' | PictureTrouble>('coming');
  const stroke = useRef<StrokeTarget | null>(null);
  const brush = useViewStore((state) => state.brush);
  const [hover, setHover] = useState<{ x: number; y: number } | null>(null);
  const place = shot.levels.indexOf(level);
  const below = useLevelsPainted(
    size,
    useMemo(() => shot.levels.slice(0, place), [shot.levels, place]),
    frame,
  );
  const above = useLevelsPainted(
    size,
    useMemo(() => shot.levels.slice(place + 1), [shot.levels, place]),
    frame,
  );
  const onion = useOnionPainted(size, level, frame);
  const drawing = drawingShownAt(level, frame);

  useEffect(() => {
    if (page.current) setDesk(new Desk(page.current));
  }, []);

  useEffect(() => {
    if (!desk?.expect(deskKey(drawing?.id, drawing?.picture))) return;
    setLaid('coming');
    return drawWith(
      drawing?.picture ? [drawing.picture] : [],
      ([bitmap]) => {
        desk.lay(bitmap ?? null);
        setLaid('ready');
      },
      setLaid,
    );
  }, [desk, drawing?.id, drawing?.picture]);

  const pointOf = (event: globalThis.PointerEvent, box: DOMRect): InkPoint => ({
    x: ((event.clientX - box.left) * size.width) / box.width,
    y: ((event.clientY - box.top) * size.height) / box.height,
    pressure: event.pointerType === 'pen' ? event.pressure : 0.5,
  });

  const begin = (event: PointerEvent<HTMLDivElement>) => {
    if (event.button !== 0 || !desk || stroke.current) return;
    if (!desk.ready) {
      toast.message(NOT_LAID[laid === 'ready' ? 'coming' : laid], { id: 'coming' });
      return;
    }
    const target = strokeTarget(desk);
    if (!target) return;
    stroke.current = target;
    event.currentTarget.setPointerCapture(event.pointerId);
    desk.begin(brush, event.pointerType === 'pen', pointOf(event.nativeEvent, event.currentTarget.getBoundingClientRect()));
  };
  const extend = (event: PointerEvent<HTMLDivElement>) => {
    const box = event.currentTarget.getBoundingClientRect();
    setHover({ x: (event.clientX - box.left) / box.width, y: (event.clientY - box.top) / box.height });
    if (!stroke.current || !desk) return;
    const native = event.nativeEvent;
    const events = native.getCoalescedEvents?.() ?? [];
    desk.extend((events.length > 0 ? events : [native]).map((each) => pointOf(each, box)));
  };
  const end = () => {
    const target = stroke.current;
    stroke.current = null;
    const pixels = desk?.end();
    if (desk && target && pixels) keepStroke(desk, target, pixels);
  };
  const cancel = () => {
    stroke.current = null;
    desk?.cancel();
  };

  const layer = 'pointer-events-none absolute inset-0 h-full w-full';
  const diameter = brush.tool === 'eraser' ? brush.eraserPx : brush.sizePx;
  return (
    <div
      role="application"
      aria-label={`Paper: ${level.name}${drawing ? `, drawing ${drawing.number}` : ', blank'}`}
      data-testid="paper"
      data-laid={laid}
      className="absolute inset-0 cursor-crosshair touch-none overflow-hidden bg-white shadow-[0_10px_30px_rgba(29,42,35,0.14)]"
      onPointerDown={begin}
      onPointerMove={extend}
      onPointerUp={end}
      onPointerCancel={cancel}
      onPointerLeave={() => setHover(null)}
    >
      <canvas ref={below} width={size.width} height={size.height} className={layer} />
      <canvas ref={onion} width={size.width} height={size.height} className={layer} />
      <canvas
        ref={page}
        width={size.width}
        height={size.height}
        className={layer}
        style={{ opacity: level.visible ? level.opacityPercent / 100 : 0 }}
      />
      <canvas ref={above} width={size.width} height={size.height} className={layer} />
      {(laid === 'away' || laid === 'missing') && (
        <p role="status" className="absolute inset-x-6 top-6 rounded-lg bg-paper/90 p-3 text-center text-sm text-rust">
          {NOT_LAID[laid]}
        </p>
      )}
      {hover && diameter > 12 && (
        <div
          className="pointer-events-none absolute aspect-square rounded-full border border-edge"
          style={{
            width: `${(diameter / size.width) * 100}%`,
            left: `${hover.x * 100}%`,
            top: `${hover.y * 100}%`,
            transform: 'translate(-50%, -50%)',
          }}
        />
      )}
    </div>
  );
}
