import { execFileSync } from 'node:child_process';
import { randomUUID } from 'node:crypto';
import { beforeAll, describe, expect, it } from 'vitest';
import { printSchema } from '@/contracts/print';
import type { Shot } from '@/core/document/model';
import { contactEntries } from '@/core/format/pdf/contactPdf';
import { levelOf, projectOf, shotOf } from '@/core/testing/sheets';
import { printContact, printSheet } from '@/server/service/print';
import { createProject, openProject } from '@/server/service/projects';
import { getDatabase } from '@/server/store/database';
import { insertDocument } from '@/server/store/saveDocument';
import { useOwnDataFolder } from '@/testing/server';

const CHOICES = { paper: 'a4', framesAPage: 96, charts: true } as const;

describe('a contact sheet', () => {
  const entry = (shot: Shot) => contactEntries(shot).map(({ level, drawing, frames }) => [level.name, drawing.number, frames]);

  it('has every drawing once, with the frames it is seen on', () => {
    const shot = shotOf([levelOf('Sock', '1*2 2 1*2 .', { extra: ['9'] }), levelOf('Yard', '1', { kind: 'still' })], 6);
    expect(entry(shot)).toEqual([
      ['Yard', '1', [0, 1, 2, 3, 4, 5]],
      ['Sock', '1', [0, 1, 3, 4]],
      ['Sock', '2', [2]],
      ['Sock', '9', []],
    ]);
  });

  it('is a PDF whose pages say so, as poppler reads them', async () => {
    await useOwnDataFolder();
    const project = { ...projectOf(shotOf([levelOf('Sock', '1*2 2 1*2')], 6)), id: randomUUID() };
    await (await getDatabase()).transaction((tx) => insertDocument(tx, project));
    const printed = await printContact(project.id, 'shot-010', 'a4');
    if (!printed.ok) throw new Error(printed.error);
    expect(printed.value.fileName).toBe('Test 010 drawings.pdf');
    const text = execFileSync('pdftotext', ['-layout', '-', '-'], { input: Buffer.from(printed.value.pdf), encoding: 'utf8' });
    expect(text).toContain('2 drawings, 0 drawn; 6 frames at 24/1 = 0.250 s');
    expect(text).toMatch(/Sock 1 +Sock 2/);
    expect(text).toMatch(/frames 1–2, 4–5 +frame 3/);
    expect(text).toContain('not drawn yet');
  });
});

describe('a sheet printed by the server', () => {
  let projectId = '';
  let shotId = '';
  beforeAll(async () => {
    await useOwnDataFolder();
    const made = await createProject({
      title: 'Leaf',
      rate: { num: 24, den: 1 },
      size: { width: 64, height: 36 },
      firstFrameNumber: 1,
      frames: 48,
    });
    projectId = made.id;
    const opened = await openProject(projectId);
    shotId = opened.ok ? (opened.value.project.shots[0]?.id ?? '') : '';
  });

  it('is a PDF named after its film and shot', async () => {
    const printed = await printSheet(projectId, shotId, CHOICES);
    expect(printed.ok && printed.value.fileName).toBe('Leaf 010 sheet.pdf');
    expect(printed.ok && Buffer.from(printed.value.pdf.subarray(0, 5)).toString()).toBe('%PDF-');
  });

  it('says which project or shot there is not', async () => {
    expect(await printSheet('nobody', shotId, CHOICES)).toMatchObject({ ok: false, status: 404 });
    const printed = await printSheet(projectId, 'nobody', CHOICES);
    expect(printed.ok ? '' : printed.error).toBe('Leaf has no such shot.');
  });

  it.each([
    [
      { paper: 'a4', frames: '96', charts: '1' },
      { paper: 'a4', framesAPage: 96, charts: true },
    ],
    [
      { paper: 'letter', frames: '100', charts: '0' },
      { paper: 'letter', framesAPage: 100, charts: false },
    ],
  ])('reads %o', (query, choices) => expect(printSchema.parse(query)).toEqual(choices));

  it.each([
    [{ paper: 'a3', frames: '96', charts: '1' }, 'The paper is a4 or letter.'],
    [{ paper: 'a4', frames: '97', charts: '1' }, 'A page holds 96 or 100 frames.'],
    [{ paper: 'a4', frames: '96' }, 'Charts are printed (1) or not (0).'],
  ])('refuses %o', (query, sentence) => {
    const read = printSchema.safeParse(query);
    expect(read.error?.issues[0]?.message).toBe(sentence);
  });
});
