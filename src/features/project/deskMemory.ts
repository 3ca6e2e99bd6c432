import { z } from 'zod';
import type { OnionSkin } from '@/core/sheet/onion';
import { type Brush, TOOLS, useViewStore } from '@/features/project/viewStore';

/*
 * How a person has set brush and onion skin stays so in this browser. What names drawings or levels of one
 * project — pinned ones, those switched off — is left out: it means nothing in another.
 */

const KEY = 'lime-tick-desk';

const colour = z.string().regex(/^#[0-9a-f]{6}$/);
const percent = z.number().min(0).max(100);
const look = z.enum(['filled', 'outline']);

const brushSchema: z.ZodType<Brush> = z.object({
  tool: z.enum(TOOLS),
  colour,
  sizePx: z.number().min(1).max(400),
  eraserPx: z.number().min(1).max(400),
  hardnessPercent: percent,
  smoothingPercent: percent,
  taperPx: z.number().min(0).max(400),
  gapPx: z.number().min(0).max(100),
  tolerance: z.number().min(0).max(255),
  borders: z.enum(['drawing', 'all']),
});

const onionSchema = z.object({
  on: z.boolean(),
  by: z.enum(['drawing', 'frame']),
  before: z.number().int().min(0).max(6),
  after: z.number().int().min(0).max(6),
  beforePercent: percent,
  afterPercent: percent,
  fadePercent: percent,
  beforeTint: colour,
  afterTint: colour,
  beforeLook: look,
  afterLook: look,
}) satisfies z.ZodType<Partial<OnionSkin>>;

const deskSchema = z.object({ brush: brushSchema, onion: onionSchema, flipRoll: z.union([z.literal(3), z.literal(5)]) });

/** Takes up how the desk was left; what can't be read is as if it had never been set. */
export function recallDesk(): void {
  let kept: unknown = null;
  try {
    kept = JSON.parse(localStorage.getItem(KEY) ?? 'null');
  } catch {
    return;
  }
  const desk = deskSchema.safeParse(kept);
  if (!desk.success) return;
  const { brush, onion, flipRoll } = desk.data;
  useViewStore.setState((state) => ({ brush, flipRoll, onion: { ...state.onion, ...onion } }));
}

/** Keeps how the desk is set from now on; what is returned ends it. */
export const rememberDesk = (): (() => void) =>
  useViewStore.subscribe(({ brush, onion, flipRoll }, before) => {
    if (brush === before.brush && onion === before.onion && flipRoll === before.flipRoll) return;
    try {
      localStorage.setItem(KEY, JSON.stringify(deskSchema.parse({ brush, onion, flipRoll })));
    } catch {
      // A browser that keeps nothing for this page starts each visit with a desk as it came.
    }
  });
