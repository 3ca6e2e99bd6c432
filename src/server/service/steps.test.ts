import fc from 'fast-check';
import { beforeAll, describe, expect, it } from 'vitest';
import type { Sending } from '@/contracts/project';
import { newReceiptSchema } from '@/contracts/receipt';
import type { Project } from '@/core/document/model';
import type { Step } from '@/core/edit/step';
import { applyStep, invertStep } from '@/core/edit/table';
import { mustBeDone } from '@/core/outcome';
import { record } from '@/core/testing/record';
import { levelOf, pictureOf } from '@/core/testing/sheets';
import { forgetDocuments } from '@/server/service/documents';
import { createProject, keepReceipt, openProject, picturePngs, receiptOf } from '@/server/service/projects';
import type { SentPicture } from '@/server/service/sentPictures';
import { shelf } from '@/server/service/shelf';
import { acceptSteps } from '@/server/service/steps';
import { getDatabase } from '@/server/store/database';
import { loadDocument } from '@/server/store/loadDocument';
import { flatPicture, useOwnDataFolder } from '@/testing/server';

const SIZE = { width: 64, height: 36 };

beforeAll(async () => {
  await useOwnDataFolder();
  await getDatabase();
});

type ProjectState = { project: Project; revision: number };

async function newProject(): Promise<ProjectState & { shotId: string; levelId: string }> {
  const { id } = await createProject({ title: 'Test', rate: { num: 24, den: 1 }, size: SIZE, firstFrameNumber: 1, frames: 48 });
  const opened = await stored(id);
  const shot = opened.project.shots[0];
  return { ...opened, shotId: shot?.id ?? '', levelId: shot?.levels[0]?.id ?? '' };
}

/** The project as its rows say, past every cache. */
async function stored(id: string): Promise<ProjectState> {
  const document = await loadDocument(await getDatabase(), id);
  if (!document) throw new Error('The project is gone.');
  return document;
}

let batches = 0;
const sending = (baseRevision: number, ...steps: Step[]): Sending => ({
  baseRevision,
  batchId: `batch${batches++}`,
  madeBy: null,
  steps,
  stepIds: [],
});
const send = (project: Project, what: Sending, pictures: readonly SentPicture[] = []) => acceptSteps(project.id, what, pictures);

describe('accepting steps', () => {
  it('keeps what the same steps make in the core, with its revision and journal', async () => {
    const { project, revision, shotId, levelId } = await newProject();
    const steps: Step[] = [
      { type: 'addDrawing', shotId, levelId, drawing: { id: 'd1', number: '1', role: 'key', picture: null }, index: 0 },
      { type: 'addDrawing', shotId, levelId, drawing: { id: 'd2', number: '2', role: 'inbetween', picture: null }, index: 1 },
      { type: 'expose', shotId, levelId, drawingId: 'd1', startFrame: 0, frames: 2 },
      { type: 'expose', shotId, levelId, drawingId: 'd2', startFrame: 2, frames: 4 },
      { type: 'addLevel', shotId, level: levelOf('Line', '1*2 .*2 2'), index: 0 },
      { type: 'setNotes', shotId, notes: [{ frame: 3, kind: 'accent', words: 'plop' }] },
      {
        type: 'setCharts',
        shotId,
        levelId,
        charts: [
          {
            id: 'c',
            fromDrawing: 'd1',
            toDrawing: 'd2',
            shape: 'halvesFirst',
            ticks: [{ place: { num: 1, den: 4 }, drawing: null }],
            path: [{ x: 3, y: 4 }],
          },
        ],
      },
      { type: 'setFormat', rate: { num: 24000, den: 1001 }, firstFrameNumber: 101 },
    ];
    const answer = await send(project, sending(revision, ...steps));
    expect(answer).toEqual({ ok: true, value: { revision: revision + steps.length } });
    const expected = steps.reduce((document, step) => mustBeDone(applyStep(document, step)), project);
    expect(await stored(project.id)).toEqual({ project: expected, revision: revision + steps.length });
  });

  it('refuses a stale revision with what came between, and changes nothing', async () => {
    const { project, revision, shotId } = await newProject();
    const first: Step = { type: 'setShotLength', shotId, frames: 60 };
    await send(project, sending(revision, first));
    const late = await send(project, sending(revision, { type: 'renameProject', title: 'Late' }));
    expect(late).toMatchObject({
      ok: false,
      status: 409,
      details: { kind: 'stale', revision: revision + 1, changes: [{ revision: revision + 1, step: first }] },
    });
    expect(late.ok ? '' : late.error).toContain('Shot length 60 frames');
    expect((await stored(project.id)).project.title).toBe('Test');
  });

  it('answers a sending it has accepted before as it did then, and makes it once', async () => {
    const { project, revision, shotId, levelId } = await newProject();
    const once = sending(revision, {
      type: 'addDrawing',
      shotId,
      levelId,
      drawing: { id: 'd1', number: '1', role: 'key', picture: null },
      index: 0,
    });
    const first = await send(project, once);
    expect(await send(project, once)).toEqual(first);
    expect((await stored(project.id)).project.shots[0]?.levels[0]?.drawings).toHaveLength(1);
  });

  it('takes all steps of a sending or none', async () => {
    const { project, revision, shotId } = await newProject();
    const answer = await send(
      project,
      sending(
        revision,
        { type: 'renameProject', title: 'Half' },
        { type: 'expose', shotId, levelId: 'nowhere', drawingId: 'x', startFrame: 0, frames: 1 },
      ),
    );
    expect(answer).toMatchObject({ ok: false, status: 422 });
    expect(await stored(project.id)).toEqual({ project, revision });
  });

  it('says in a sentence which project it does not know', async () => {
    const answer = await acceptSteps('nobody', sending(0, { type: 'renameProject', title: 'x' }), []);
    expect(answer).toMatchObject({ ok: false, status: 404 });
    expect(answer.ok ? '' : answer.error).toContain('no project nobody');
  });

  it('takes sendings that come at once one after the other', async () => {
    const { project, revision } = await newProject();
    const answers = await Promise.all(
      [1, 2, 3].map((number) => send(project, sending(revision, { type: 'renameProject', title: `Title ${number}` }))),
    );
    expect(answers.filter((answer) => answer.ok)).toHaveLength(1);
    expect(answers.filter((answer) => !answer.ok && answer.status === 409)).toHaveLength(2);
    expect((await stored(project.id)).revision).toBe(revision + 1);
  });

  it('writes rows that read back as the document, whatever the steps', async () => {
    const { project, revision, shotId, levelId } = await newProject();
    const drawings = ['a', 'b', 'c'].map(
      (id, index): Step => ({
        type: 'addDrawing',
        shotId,
        levelId,
        drawing: { id, number: String(index + 1), role: 'inbetween', picture: null },
        index,
      }),
    );
    await send(project, sending(revision, ...drawings));
    let current = await stored(project.id);
    const at = { shotId, levelId };
    const step = fc.oneof(
      record({
        type: fc.constant('expose' as const),
        shotId: fc.constant(at.shotId),
        levelId: fc.constant(at.levelId),
        drawingId: fc.constantFrom('a', 'b', 'c'),
        startFrame: fc.nat(40),
        frames: fc.integer({ min: 1, max: 5 }),
      }),
      record({
        type: fc.constant('blank' as const),
        shotId: fc.constant(at.shotId),
        levelId: fc.constant(at.levelId),
        startFrame: fc.nat(40),
        frames: fc.integer({ min: 1, max: 9 }),
      }),
      record({
        type: fc.constant('deleteDrawing' as const),
        shotId: fc.constant(at.shotId),
        levelId: fc.constant(at.levelId),
        drawingId: fc.constantFrom('a', 'b', 'c'),
      }),
      record({
        type: fc.constant('addDrawing' as const),
        shotId: fc.constant(at.shotId),
        levelId: fc.constant(at.levelId),
        index: fc.constant(0),
        drawing: record({
          id: fc.constantFrom('a', 'b', 'c'),
          number: fc.constantFrom('1', '2', '3', '9'),
          role: fc.constant('key' as const),
          picture: fc.constant(null),
        }),
      }),
    );
    await fc.assert(
      fc.asyncProperty(fc.array(step, { minLength: 1, maxLength: 6 }), async (steps) => {
        const applied: Step[] = [];
        let expected = current.project;
        for (const each of steps) {
          const next = applyStep(expected, each);
          if (!next.ok) continue;
          expected = next.value;
          applied.push(structuredClone(each));
        }
        if (applied.length === 0) return;
        const answer = await send(current.project, sending(current.revision, ...applied));
        expect(answer.ok).toBe(true);
        current = await stored(project.id);
        expect(current.project).toEqual(expected);
      }),
      { numRuns: 60 },
    );
  });
});

const drawing = (shotId: string, levelId: string): Step => ({
  type: 'addDrawing',
  shotId,
  levelId,
  drawing: { id: 'd1', number: '1', role: 'key', picture: null },
  index: 0,
});
const draw = (shotId: string, levelId: string, picture: string): Step => ({
  type: 'setPicture',
  shotId,
  levelId,
  drawingId: 'd1',
  picture,
});

describe('opening while steps arrive', () => {
  it('gives a document as of the very revision it names', async () => {
    const { project, revision, shotId, levelId } = await newProject();
    const documents = new Map([[revision, project]]);
    const opens: Promise<void>[] = [];
    let current = { project, revision };
    for (let round = 0; round < 25; round++) {
      const step: Step = {
        type: 'addDrawing',
        shotId,
        levelId,
        drawing: { id: `r${round}`, number: String(round + 1), role: 'key', picture: null },
        index: round,
      };
      const sent = send(project, sending(current.revision, step));
      for (let window = 0; window < 3; window++) {
        opens.push(
          openProject(project.id).then((opened) => {
            if (!opened.ok) throw new Error(opened.error);
            expect(opened.value.project).toEqual(documents.get(opened.value.revision));
          }),
        );
      }
      const next = { project: mustBeDone(applyStep(current.project, step)), revision: current.revision + 1 };
      documents.set(next.revision, next.project);
      await sent;
      // As after a restart: nothing is at hand, so that every opening reads the rows.
      forgetDocuments();
      current = next;
    }
    await Promise.all(opens);
  });
});

describe('pictures', () => {
  it('come with the step that names them and go back out as they came', async () => {
    const { project, revision, shotId, levelId } = await newProject();
    const picture = await flatPicture('#c8583c', SIZE);
    const answer = await send(project, sending(revision, drawing(shotId, levelId), draw(shotId, levelId, picture.digest)), [picture]);
    expect(answer.ok).toBe(true);
    const [back, missing] = await picturePngs([picture.digest, pictureOf('7')]);
    expect(Buffer.from(back ?? [])).toEqual(Buffer.from(picture.png));
    expect(missing).toBeNull();
    const second = await newProject();
    const again = await send(
      second.project,
      sending(second.revision, drawing(second.shotId, second.levelId), draw(second.shotId, second.levelId, picture.digest)),
    );
    expect(again.ok).toBe(true);
  });

  it.each([
    [
      'bytes that are no picture',
      async () => ({ digest: pictureOf('a'), png: new TextEncoder().encode('hello, I am not a picture at all, sorry') }),
      'are not a PNG picture',
    ],
    [
      'a picture of another size',
      async () => flatPicture('#000000', { width: 32, height: 36 }),
      '32 × 36; drawings of this project are 64 × 36',
    ],
    [
      'a picture cut short',
      async () => {
        const whole = await flatPicture('#12345678', SIZE);
        return { ...whole, png: whole.png.subarray(0, 60) };
      },
      "can't be read",
    ],
    [
      'other pixels than its digest says',
      async () => ({ ...(await flatPicture('#ff0000', SIZE)), digest: pictureOf('b') }),
      'has other pixels',
    ],
  ] as const)('refuses %s and changes nothing', async (_what, make, named) => {
    const { project, revision, shotId, levelId } = await newProject();
    const picture = await make();
    const answer = await send(project, sending(revision, drawing(shotId, levelId), draw(shotId, levelId, picture.digest)), [picture]);
    expect(answer).toMatchObject({ ok: false, status: 422 });
    expect(answer.ok ? '' : answer.error).toContain(named);
    expect(await stored(project.id)).toEqual({ project, revision });
  });

  it('refuses a step that names a picture nobody sent', async () => {
    const { project, revision, shotId, levelId } = await newProject();
    const answer = await send(project, sending(revision, drawing(shotId, levelId), draw(shotId, levelId, pictureOf('9'))));
    expect(answer.ok ? '' : answer.error).toContain('never sent');
  });
});

describe('another picture size', () => {
  const LARGER = { width: 128, height: 72 };

  it('is taken with every drawing laid anew, and undone again', async () => {
    const { project, revision, shotId, levelId } = await newProject();
    const small = await flatPicture('#336699', SIZE);
    const large = await flatPicture('#336699', LARGER);
    const drawn = await send(project, sending(revision, drawing(shotId, levelId), draw(shotId, levelId, small.digest)), [small]);
    expect(drawn.ok).toBe(true);
    const change: Step = {
      type: 'together',
      words: 'Size',
      steps: [{ type: 'setFormat', size: LARGER }, draw(shotId, levelId, large.digest)],
    };
    const after = await stored(project.id);
    expect(await send(project, sending(after.revision, change), [large])).toMatchObject({ ok: true });
    const larger = await stored(project.id);
    expect(larger.project.size).toEqual(LARGER);
    expect(await send(project, sending(larger.revision, invertStep(after.project, change)))).toMatchObject({ ok: true });
    expect((await stored(project.id)).project).toEqual(after.project);
  });

  it('is refused while a drawing would keep its old size', async () => {
    const { project, revision, shotId, levelId } = await newProject();
    const small = await flatPicture('#336699', SIZE);
    await send(project, sending(revision, drawing(shotId, levelId), draw(shotId, levelId, small.digest)), [small]);
    const after = await stored(project.id);
    const answer = await send(project, sending(after.revision, { type: 'setFormat', size: LARGER }));
    expect(answer.ok ? '' : answer.error).toContain('64 × 36; drawings of this project are 128 × 72');
    expect(await stored(project.id)).toEqual(after);
  });
});

describe('the shelf and receipts', () => {
  it('shows every project with its counts', async () => {
    const { project, revision, shotId, levelId } = await newProject();
    await send(
      project,
      sending(revision, { type: 'addDrawing', shotId, levelId, drawing: { id: 'd1', number: '1', role: 'key', picture: null }, index: 0 }),
    );
    const entry = (await shelf()).find((candidate) => candidate.id === project.id);
    expect(entry).toMatchObject({ title: 'Test', shots: 1, frames: 48, drawings: 1, drawn: 0, rate: { num: 24, den: 1 }, cover: [] });
  });

  it('keeps receipts with their project, newest first, and none for a project that is not there', async () => {
    const { project } = await newProject();
    const receipt = {
      id: 'receipt1',
      fileName: 'a.mp4',
      formatId: 'mp4',
      fileBytes: 10,
      fileDigest: pictureOf('a'),
      shotId: null,
      whole: true,
      withBackground: true,
      finish: [],
      planDigest: pictureOf('b'),
      pictures: 3,
      request: { frames: 48, rate: { num: 24, den: 1 }, ...SIZE, firstNumber: 1 },
      frameDigests: { version: 1, of: 'packet' as const, digests: [pictureOf('c')], runs: [[0, 48]] as [number, number][] },
      count: {
        frames: 48,
        hasTimes: true,
        rate: { num: 24, den: 1 },
        otherRates: [],
        missingFrames: [],
        durationMicroseconds: 2_000_000,
        timeToleranceMicroseconds: 1,
        ...SIZE,
        repeatFrames: [],
        wrongFrames: [],
        mistimedFrames: [],
        untellableChanges: 0,
        comparison: { kind: 'exact' as const },
      },
    };
    await keepReceipt(project.id, newReceiptSchema.parse(receipt));
    await keepReceipt(project.id, newReceiptSchema.parse({ ...receipt, id: 'receipt2', fileName: 'b.mp4' }));
    const opened = await openProject(project.id);
    expect(opened.ok && opened.value.receipts.map((entry) => entry.fileName)).toEqual(['b.mp4', 'a.mp4']);
    const listed = opened.ok ? opened.value.receipts[0] : null;
    expect(listed?.frameDigests).toBeNull();
    expect(await receiptOf(project.id, 'receipt2')).toMatchObject({ ok: true, value: { ...listed, frameDigests: receipt.frameDigests } });
    expect(await receiptOf(project.id, 'none')).toMatchObject({ ok: false, status: 404 });
    expect(await keepReceipt('nobody', newReceiptSchema.parse(receipt))).toMatchObject({ ok: false, status: 404 });
    expect(await openProject('nobody')).toMatchObject({ ok: false, status: 404 });
  });
});
