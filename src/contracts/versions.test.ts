import { describe, expect, it } from 'vitest';
import { z } from 'zod';
import { shotSchema } from '@/contracts/document';
import { chainReader, draftReader, historyReader, waitingReader } from '@/contracts/local';
import { receiptReader, waitingReceiptReader } from '@/contracts/receipt';
import browser from '@/contracts/samples/browser.v3.json';
import document from '@/contracts/samples/document.v1.json';
import draft from '@/contracts/samples/draft.v1.json';
import history from '@/contracts/samples/history.v1.json';
import samples from '@/contracts/samples/opened.v1.json';
import receipt from '@/contracts/samples/receipt.v1.json';
import settings from '@/contracts/samples/settings.v1.json';
import steps from '@/contracts/samples/steps.v1.json';
import waiting from '@/contracts/samples/waiting.v1.json';
import { storedKeysReader } from '@/contracts/settings';
import { stepSchema } from '@/contracts/step';
import { readerOf } from '@/contracts/versions';
import type { Project, Shot } from '@/core/document/model';
import { upgradeDocument, upgradeStep } from '@/core/document/upgrade/upgrade';
import { applyStep, STEP_TYPES } from '@/core/edit/table';
import { mustBeDone } from '@/core/outcome';
import { placedShots } from '@/core/reel/reel';

/* Samples of what each earlier version wrote: whatever one of them stored must be read for ever. */

describe('what the first version stored', () => {
  it.each(waiting.map((entry, index) => [index, entry] as const))('waiting step %i', (_index, entry) => {
    const read = waitingReader.read(entry);
    expect(read).toMatchObject({ ok: true, value: { order: entry.order, step: entry.step, sending: entry.sending, windowId: '' } });
    if (read.ok) expect(read.value.sizeBytes).toBeGreaterThan(10);
  });
  it('a stroke', () => expect(draftReader.read(draft)).toMatchObject({ ok: true, value: { stroke: draft.stroke, target: draft.target } }));
  it.each(history.map((entry, index) => [index, entry] as const))('what can be undone %i', (_index, entry) =>
    expect(historyReader.read(entry)).toMatchObject({ ok: true, value: { step: entry.step, stack: entry.stack } }),
  );
  it('a receipt', () =>
    expect(receiptReader.read({ ...receipt, madeAt: '2026-10-01T10:00:00.000Z' })).toMatchObject({
      ok: true,
      value: { count: receipt.counted, request: receipt.asked, formatId: receipt.kind, frameDigests: null },
    }));
  it('a receipt that waits for the server', () =>
    expect(waitingReceiptReader.read({ version: 1, projectId: 'project', madeAt: '2026-10-01T10:00:00.000Z', receipt })).toMatchObject({
      ok: true,
      value: {
        receipt: { formatId: receipt.kind, request: receipt.asked, count: { ...receipt.counted, missingFrames: [] }, frameDigests: null },
      },
    }));
  it('changed shortcuts', () => expect(storedKeysReader.read(settings)).toMatchObject({ ok: true, value: { keys: settings } }));
  it('a document’s shots', () => {
    for (const shot of upgradeDocument(document, 1).shots as readonly Shot[]) expect(shotSchema.parse(shot)).toEqual(shot);
  });
  it('steps of every kind', () => {
    // Kinds of steps that came later: no first version wrote one.
    const later = ['setTiming', 'addItems', 'removeItems', 'trimItem', 'setGapLength', 'readClip', 'finishItem', 'moveEffect'];
    const today = steps.map((step) => upgradeStep(step, 1));
    // Steps that are several today hold them.
    const kinds = today.flatMap((step) => [
      step.type,
      ...((step.steps as readonly { type: string }[] | undefined) ?? []).map(({ type }) => type),
    ]);
    expect([...new Set(kinds), ...later].sort()).toEqual([...STEP_TYPES].sort());
    for (const step of today) expect(stepSchema.parse(step)).toEqual(step);
  });
});

describe('what a browser of the version before the reel had items kept', () => {
  it('is read whole, moves of shots as moves on the reel', () => {
    const shots = samples.opened.find(({ project }) => project.id === 'washday')?.project.shots ?? [];
    const waiting = browser.waiting.map((entry) => waitingReader.read(entry));
    expect(waiting.every(({ ok }) => ok)).toBe(true);
    expect(waiting.map((read) => read.ok && read.value.step)).toMatchObject([
      { type: 'moveItem', itemId: shots[0]?.id, index: 1 },
      { type: 'moveItem', itemId: shots[1]?.id, index: 1 },
      {},
      { type: 'setPicture' },
    ]);
    const history = browser.history.map((entry) => historyReader.read(entry));
    expect(history.every(({ ok }) => ok)).toBe(true);
    for (const chain of browser.chains) expect(chainReader.read(chain)).toMatchObject({ ok: true });
  });

  it('can be made again on its document, one step after another', () => {
    const washday = upgradeDocument(samples.opened.find(({ project }) => project.id === 'washday')?.project ?? {}, 1) as unknown as Project;
    const steps = browser.waiting.map((entry) => {
      const read = waitingReader.read(entry);
      if (!read.ok) throw new Error(read.reason);
      return read.value.step;
    });
    let project = washday;
    for (const step of steps) project = mustBeDone(applyStep(project, step));
    expect(placedShots(project).map(({ shot }) => shot.code)).toEqual(['020', '020a', '010', '030']);
  });
});

describe('readerOf', () => {
  const reader = readerOf('A thing', z.object({ version: z.number(), size: z.number(), colour: z.string() }), [
    ({ width, ...old }) => ({ ...old, size: width }),
    (old) => ({ colour: 'lime', ...old }),
  ]);

  it.each([
    ['the first form', { width: 4 }],
    ['the first form that says so', { version: 1, width: 4 }],
    ['the second', { version: 2, size: 4 }],
    ['today’s', { version: 3, size: 4, colour: 'lime' }],
  ])('brings %s to today’s', (_what, stored) =>
    expect(reader.read(stored)).toEqual({ ok: true, value: { version: 3, size: 4, colour: 'lime' } }),
  );

  it.each([
    ['a newer form', { version: 4, size: 4, colour: 'lime' }, 'written by a newer Lime Tick (form 4; this one reads up to 3)'],
    ['no form', { version: 'x' }, 'doesn’t say in which form'],
    ['nothing', null, 'holds nothing'],
    ['something else', { version: 3, size: 'large', colour: 'lime' }, 'size'],
  ])('sets %s aside with a sentence', (_what, stored, words) => {
    const read = reader.read(stored);
    expect(read.ok ? '' : read.reason).toContain(words);
    expect(read.ok ? '' : read.reason).toMatch(/[.!?]$/);
  });
});
