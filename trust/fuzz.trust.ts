import { mkdtemp } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import path from 'node:path';
import fc from 'fast-check';
import { z } from 'zod';
import { backupSettingsSchema } from '../src/contracts/backups';
import { newSourcesSchema } from '../src/contracts/bringIn';
import { destinationChangeSchema } from '../src/contracts/destinations';
import { outsideOrderSchema, outsideRunsSchema } from '../src/contracts/encoder';
import { deletionSchema, shelfChangeSchema } from '../src/contracts/keep';
import { momentNameSchema } from '../src/contracts/past';
import { handChangeSchema, presenceSchema } from '../src/contracts/people';
import { newProjectSchema, sendingSchema } from '../src/contracts/project';
import { newReceiptSchema } from '../src/contracts/receipt';
import { recipeChangeSchema } from '../src/contracts/recipes';
import { passphraseSchema } from '../src/contracts/session';
import { keySettingsSchema } from '../src/contracts/settings';
import { anyStep, START } from '../src/core/testing/steps';
import { promised, wholeFrom } from './figure';
import { bodyOf } from './randomBody';

/* Every route that takes a body gets thousands of them, made out of its own contract. None may make the server fail. */

const BODIES = wholeFrom('TRUST_BODIES', 10_000);
process.env.LIME_TICK_DATA = await mkdtemp(path.join(tmpdir(), 'lime-tick-trust-'));
process.env.LIME_TICK_LOG = 'silent';

type Handler = (request: Request, context: { params: Promise<never> }) => Promise<Response>;
const ROUTES: readonly {
  readonly name: string;
  readonly method: string;
  readonly handler: () => Promise<unknown>;
  readonly schema: z.ZodType;
  readonly isForm?: boolean;
}[] = [
  { name: 'projects', method: 'POST', handler: async () => (await import('../src/app/api/projects/route')).POST, schema: newProjectSchema },
  {
    name: 'projects/[id]',
    method: 'PATCH',
    handler: async () => (await import('../src/app/api/projects/[projectId]/route')).PATCH,
    schema: shelfChangeSchema,
  },
  {
    name: 'projects/[id]/steps',
    method: 'POST',
    handler: async () => (await import('../src/app/api/projects/[projectId]/steps/route')).POST,
    schema: sendingSchema,
    isForm: true,
  },
  {
    name: 'projects/[id]/receipts',
    method: 'POST',
    handler: async () => (await import('../src/app/api/projects/[projectId]/receipts/route')).POST,
    schema: newReceiptSchema,
  },
  {
    name: 'projects/[id]/sources',
    method: 'POST',
    handler: async () => (await import('../src/app/api/projects/[projectId]/sources/route')).POST,
    schema: newSourcesSchema,
  },
  {
    name: 'projects/[id]/past',
    method: 'PUT',
    handler: async () => (await import('../src/app/api/projects/[projectId]/past/route')).PUT,
    schema: momentNameSchema,
  },
  {
    name: 'projects/[id]/people',
    method: 'POST',
    handler: async () => (await import('../src/app/api/projects/[projectId]/people/route')).POST,
    schema: presenceSchema,
  },
  {
    name: 'projects/[id]/hands',
    method: 'PUT',
    handler: async () => (await import('../src/app/api/projects/[projectId]/hands/route')).PUT,
    schema: handChangeSchema,
  },
  {
    name: 'settings/keys',
    method: 'PUT',
    handler: async () => (await import('../src/app/api/settings/keys/route')).PUT,
    schema: keySettingsSchema,
  },
  {
    name: 'settings/recipes',
    method: 'PUT',
    handler: async () => (await import('../src/app/api/settings/recipes/route')).PUT,
    schema: recipeChangeSchema,
  },
  {
    name: 'settings/destinations',
    method: 'PUT',
    handler: async () => (await import('../src/app/api/settings/destinations/route')).PUT,
    schema: destinationChangeSchema,
  },
  { name: 'encoder', method: 'POST', handler: async () => (await import('../src/app/api/encoder/route')).POST, schema: outsideOrderSchema },
  {
    name: 'encoder/[id]/encode',
    method: 'POST',
    handler: async () => (await import('../src/app/api/encoder/[filmId]/encode/route')).POST,
    schema: outsideRunsSchema,
  },
  { name: 'session', method: 'POST', handler: async () => (await import('../src/app/api/session/route')).POST, schema: passphraseSchema },
  {
    name: 'store/backups',
    method: 'PUT',
    handler: async () => (await import('../src/app/api/store/backups/route')).PUT,
    schema: backupSettingsSchema,
  },
  {
    name: 'projects/[id]',
    method: 'DELETE',
    handler: async () => (await import('../src/app/api/projects/[projectId]/route')).DELETE,
    schema: deletionSchema,
  },
];

const { insertDocument } = await import('../src/server/store/saveDocument');
const { getDatabase } = await import('../src/server/store/database');
const id = 'fuzzed';
const withoutPictures = START.shots.map((shot) => ({
  ...shot,
  levels: shot.levels.map((level) => ({ ...level, drawings: level.drawings.map((drawing) => ({ ...drawing, picture: null })) })),
}));
await (await getDatabase()).transaction((tx) => insertDocument(tx, { ...START, id, shots: withoutPictures }));

/** Sendings that are well formed, of steps that mostly apply, so that some get past the border. */
const sendings = fc
  .tuple(fc.nat(3), fc.uuid(), fc.array(anyStep, { minLength: 1, maxLength: 4 }))
  .map(([behind, batchId, steps]) => ({ behind, batchId, steps }));

/** The revision by now, so that what is sent is not too old. */
async function withRevision(body: unknown): Promise<unknown> {
  if (typeof body !== 'object' || body === null || !('behind' in body)) return body;
  const { revisionOf } = await import('../src/server/store/journal');
  const { behind, ...sending } = body as { behind: number };
  return { ...sending, baseRevision: Math.max(0, ((await revisionOf(await getDatabase(), id)) ?? 0) - (behind === 3 ? 1 : 0)) };
}

function requestOf(method: string, isForm: boolean, body: unknown): Request {
  const text = JSON.stringify(body) ?? '';
  if (!isForm) return new Request('http://127.0.0.1/api', { method, body: text, headers: { 'Content-Type': 'application/json' } });
  const form = new FormData();
  form.set('sending', text);
  return new Request('http://127.0.0.1/api', { method, body: form });
}

for (const { name, method, handler, schema, isForm = false } of ROUTES) {
  const handle = (await handler()) as Handler;
  const json = z.toJSONSchema(schema, { io: 'input', unrepresentable: 'any' });
  const answers = new Map<number, number>();
  let failed: { status: number; body: string } | null = null;
  const context = () => ({ params: Promise.resolve({ projectId: id, filmId: 'nothing' }) as unknown as Promise<never> });
  const random = bodyOf(json as Parameters<typeof bodyOf>[0]);
  for (const made of fc.sample(isForm ? fc.oneof(random, sendings) : random, BODIES)) {
    const body = await withRevision(made);
    const response = await handle(requestOf(method, isForm, body), context());
    answers.set(response.status, (answers.get(response.status) ?? 0) + 1);
    if (response.status >= 500 && response.status !== 503) failed ??= { status: response.status, body: JSON.stringify(body).slice(0, 400) };
    await response.body?.cancel();
  }
  const broken = [...answers].reduce((sum, [status, count]) => (status >= 500 && status !== 503 ? sum + count : sum), 0);
  promised({
    figure: `fuzz ${method} ${name}`,
    tried: BODIES,
    broken,
    answers: Object.fromEntries(answers),
    ...(failed ? { failed } : {}),
  });
}
process.exit();
