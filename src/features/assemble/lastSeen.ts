import { z } from 'zod';
import type { Project, ProjectId } from '@/core/document/model';
import { changesSince, type SeenChange, type SeenReel, seenReel } from '@/core/render/seenReel';

/*
 * How the reel was when somebody left Assemble stays in this browser, with what was told of it and not dismissed. What can't
 * be read is as if nobody had been here yet.
 */

const VERSION = 2;
const keyOf = (projectId: ProjectId) => `lime-tick-reel ${projectId}`;

const whole = z.number().int();
const seenSchema: z.ZodType<SeenReel> = z.object({
  rate: z.object({ num: whole, den: whole }),
  frames: whole,
  items: z.array(
    z.object({ id: z.string(), sourceId: z.string().nullable(), name: z.string(), startFrame: whole, frames: whole, pictures: whole }),
  ),
  sounds: z.array(z.object({ id: z.string(), name: z.string(), startFrame: whole })),
});
const keptSchema = z.object({
  version: z.literal(VERSION),
  seen: seenSchema,
  told: z.array(z.object({ sentence: z.string(), itemId: z.string().nullable() })),
});

/** The first form called what an item shows its shot, since there were no clips. */
const fromFirstForm = (kept: unknown): unknown => {
  const old = kept as { version?: unknown; seen?: { items?: { shotId?: unknown }[] } } | null;
  if (old?.version !== 1 || !Array.isArray(old.seen?.items)) return kept;
  return { ...old, version: VERSION, seen: { ...old.seen, items: old.seen.items.map((item) => ({ ...item, sourceId: item.shotId })) } };
};

/** Keeps how the reel is now, and what is told of it still. */
export function keepSeen(project: Project, told: readonly SeenChange[]): void {
  try {
    localStorage.setItem(keyOf(project.id), JSON.stringify({ version: VERSION, seen: seenReel(project), told }));
  } catch {
    // A browser that keeps nothing for this page can tell nothing of what changed since.
  }
}

/** What is to be told of the reel: what was told and not dismissed, and what changed since. */
export function toldSince(project: Project): readonly SeenChange[] {
  try {
    const kept = keptSchema.safeParse(fromFirstForm(JSON.parse(localStorage.getItem(keyOf(project.id)) ?? 'null'))).data;
    return kept ? [...kept.told, ...changesSince(kept.seen, seenReel(project), project.firstFrameNumber)] : [];
  } catch {
    return [];
  }
}
