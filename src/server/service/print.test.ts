import { beforeAll, describe, expect, it } from 'vitest';
import { printSchema } from '@/contracts/print';
import { printSheet } from '@/server/service/print';
import { createProject, openProject } from '@/server/service/projects';
import { useOwnDataFolder } from '@/testing/server';

const CHOICES = { paper: 'a4', framesAPage: 96, charts: true } as const;

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
