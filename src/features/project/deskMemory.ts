import { z } from 'zod';
import type { ProjectId } from '@/core/document/model';
import type { OnionSkin } from '@/core/sheet/onion';
import { type Brush, TOOLS, useViewStore } from '@/features/project/viewStore';

/*
 * How a person has set brush and onion skin stays so in this browser. What names drawings or levels of one
 * project — pinned ones, those switched off, levels that shine through too — and how its paper lies is kept
 * with the project's id: it means nothing in another.
 */

const KEY = 'lime-tick-desk';
const keyOf = (projectId: ProjectId) => `${KEY} ${projectId}`;

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

const ids = z.array(z.string()).max(500);

const projectDeskSchema = z.object({
  off: ids,
  pinned: z.array(z.object({ levelId: z.string(), drawingId: z.string() })).max(500),
  alsoLevelIds: ids,
  paperView: z.object({
    panX: z.number(),
    panY: z.number(),
    turnDegrees: z.number(),
    zoom: z.number().min(0.25).max(32),
    mirrored: z.boolean(),
  }),
});

/** What was kept under a key; null when there is nothing or it can't be read. */
function keptAs<T>(key: string, schema: z.ZodType<T>): T | null {
  try {
    return schema.safeParse(JSON.parse(localStorage.getItem(key) ?? 'null')).data ?? null;
  } catch {
    return null;
  }
}

function keepAs<T>(key: string, schema: z.ZodType<T>, value: T): void {
  try {
    localStorage.setItem(key, JSON.stringify(schema.parse(value)));
  } catch {
    // A browser that keeps nothing for this page starts each visit with a desk as it came.
  }
}

/** Takes up how the desk was left; what can't be read is as if it had never been set. */
export function recallDesk(projectId: ProjectId): void {
  const desk = keptAs(KEY, deskSchema);
  if (desk) useViewStore.setState(({ onion }) => ({ brush: desk.brush, flipRoll: desk.flipRoll, onion: { ...onion, ...desk.onion } }));
  const own = keptAs(keyOf(projectId), projectDeskSchema);
  if (!own) return;
  const { paperView, ...named } = own;
  useViewStore.setState(({ onion }) => ({ paperView, onion: { ...onion, ...named } }));
}

/** Keeps how the desk is set from now on; what is returned ends it. */
export const rememberDesk = (projectId: ProjectId): (() => void) =>
  useViewStore.subscribe(({ brush, onion, flipRoll, paperView }, before) => {
    if (brush !== before.brush || onion !== before.onion || flipRoll !== before.flipRoll) {
      keepAs(KEY, deskSchema, { brush, onion, flipRoll });
    }
    if (onion !== before.onion || paperView !== before.paperView) {
      keepAs(keyOf(projectId), projectDeskSchema, {
        off: [...onion.off],
        pinned: [...onion.pinned],
        alsoLevelIds: [...onion.alsoLevelIds],
        paperView,
      });
    }
  });
