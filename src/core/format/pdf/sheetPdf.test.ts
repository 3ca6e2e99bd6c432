import { spawnSync } from 'node:child_process';
import { mkdtempSync, readFileSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import path from 'node:path';
import { PDFDocument } from 'pdf-lib';
import { describe, expect, it } from 'vitest';
import type { Shot } from '@/core/document/model';
import { layOutPages, PAPERS } from '@/core/format/pdf/pageLayout';
import { type PrintChoices, sheetPdf } from '@/core/format/pdf/sheetPdf';
import { levelOf, projectOf, shotOf } from '@/core/testing/sheets';
import { fraction } from '@/core/time/fraction';

const face = (weight: number) =>
  readFileSync(`node_modules/@fontsource/atkinson-hyperlegible-next/files/atkinson-hyperlegible-next-latin-${weight}-normal.woff`);
const FACES = { regular: face(400), bold: face(700) };

/** The words of each page of a PDF, as poppler reads them. */
function textOf(pdf: Uint8Array): readonly string[] {
  const file = path.join(mkdtempSync(path.join(tmpdir(), 'lime-tick-pdf-')), 'sheet.pdf');
  writeFileSync(file, pdf);
  const { stdout, status } = spawnSync('pdftotext', ['-layout', file, '-'], { encoding: 'utf8' });
  if (status !== 0) throw new Error('pdftotext could not read the sheet.');
  return stdout.split('\f').slice(0, -1);
}

const sock = levelOf('Sock', '1*6 2*2 3*2 4*110', { pictures: 'a' });
const chart = {
  id: 'c',
  fromDrawing: 'Sock-1',
  toDrawing: 'Sock-4',
  shape: 'halvesFirst' as const,
  ticks: [
    { place: fraction(1, 4), drawing: 'Sock-2' },
    { place: fraction(1, 2), drawing: 'Sock-3' },
  ],
  path: [],
};
const shot: Shot = {
  ...shotOf([{ ...sock, charts: [chart] }, levelOf('Clip', '1*8', { kind: 'guide' })], 120, '020'),
  name: 'The sock drops',
  note: 'Sways twice.',
  notes: [
    { frame: 24, kind: 'note', words: 'lets go' },
    { frame: 35, kind: 'accent', words: 'plop' },
  ],
};
const project = { ...projectOf(shot), title: 'Washday' };
const choices: PrintChoices = { paper: 'a4', framesAPage: 96, charts: false };

describe('the printed sheet', () => {
  it('has its shot, rate, length, note and totals at the head of every page', async () => {
    const pages = textOf(await sheetPdf(project, shot, choices, FACES));
    expect(pages).toHaveLength(2);
    for (const [index, page] of pages.entries()) {
      expect(page).toContain('Washday, shot 020');
      expect(page).toContain('The sock drops');
      expect(page).toContain('120 frames at 24/1 = 5.000 s, 00:00:05:00, 7+08 ft');
      expect(page).toContain('4 drawings, 1 drawn');
      expect(page).toContain('Note: Sways twice.');
      expect(page).toContain(`page ${index + 1} of 2`);
    }
    expect(pages[0]).toContain('frames 1–96');
    expect(pages[1]).toContain('frames 97–120');
  });

  it('has every frame once, in order, and every exposure where it begins', async () => {
    const pages = textOf(await sheetPdf(project, shot, choices, FACES));
    const rows = pages.join('\n').split('\n');
    for (let frame = 1; frame <= 120; frame++) expect(rows.some((row) => new RegExp(`(^|\\s)${frame}(\\s|$)`).test(row))).toBe(true);
    expect(pages[0]).toContain('lets go');
    expect(pages[0]).toContain('> plop');
    expect(pages[1]).toContain('(4)');
  });

  it('prints charts and their fractions when asked', async () => {
    const pages = textOf(await sheetPdf(project, shot, { ...choices, charts: true }, FACES));
    expect(pages).toHaveLength(3);
    expect(pages[0]).toContain('1/4');
    expect(pages[2]).toContain('Sock 1 to 4');
    expect(pages[2]).toContain('halves to 1');
    expect(textOf(await sheetPdf(project, shot, choices, FACES))[0]).not.toContain('1/4');
  });

  it.each(['a4', 'letter'] as const)('is on %s, and survives words it has no letters for', async (paper) => {
    const strange = { ...shot, note: '紙 🧦 ß é' };
    const document = await PDFDocument.load(await sheetPdf(project, strange, { ...choices, paper, framesAPage: 100 }, FACES));
    expect(document.getPageCount()).toBe(2);
    expect(document.getPage(0).getSize()).toEqual({ width: PAPERS[paper].width, height: PAPERS[paper].height });
  });
});

describe('pages of a sheet', () => {
  it.each([
    [96, 96, 3, 1],
    [96, 97, 3, 2],
    [100, 200, 3, 2],
    [96, 96, 0, 1],
  ] as const)('of %i frames a page, %i frames and %i levels: %i', (perPage, frames, levels, pages) =>
    expect(layOutPages('a4', perPage, frames, levels).pages).toHaveLength(pages),
  );

  it('hold every frame of every level once, whatever the paper', () => {
    for (const paper of ['a4', 'letter'] as const) {
      const layout = layOutPages(paper, 96, 200, 20);
      const cells = new Set<string>();
      for (const page of layout.pages)
        for (let frame = page.fromFrame; frame < page.toFrame; frame++)
          for (let level = page.fromLevel; level < page.toLevel; level++) {
            expect(cells.has(`${frame} ${level}`)).toBe(false);
            cells.add(`${frame} ${level}`);
          }
      expect(cells.size).toBe(4000);
      expect(layout.rulerWidth + layout.levelsAPage * layout.columnWidth).toBeLessThan(layout.halfWidth);
      expect(layout.rowsTop - layout.halfFrames * layout.rowHeight).toBeGreaterThanOrEqual(layout.margin - 0.01);
    }
  });
});
