import { execFileSync, spawnSync } from 'node:child_process';
import { mkdtempSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import path from 'node:path';
import { PDFDocument } from 'pdf-lib';
import sharp from 'sharp';
import { describe, expect, it } from 'vitest';
import type { Shot } from '@/core/document/model';
import { layOutPages, PAPERS } from '@/core/format/pdf/pageLayout';
import type { WordsMaker } from '@/core/format/pdf/pdfPen';
import { NO_SOUNDS, PRINTED_PARTS, type PrintedSounds } from '@/core/format/pdf/printedSounds';
import { type PrintChoices, sheetPdf } from '@/core/format/pdf/sheetPdf';
import { printFaces } from '@/core/testing/printFaces';
import { levelOf, projectOf, shotOf } from '@/core/testing/sheets';
import { fraction } from '@/core/time/fraction';

const FACES = printFaces();

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
    const pages = textOf(await sheetPdf(project, shot, choices, NO_SOUNDS, FACES, null));
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
    const pages = textOf(await sheetPdf(project, shot, choices, NO_SOUNDS, FACES, null));
    const rows = pages.join('\n').split('\n');
    for (let frame = 1; frame <= 120; frame++) expect(rows.some((row) => new RegExp(`(^|\\s)${frame}(\\s|$)`).test(row))).toBe(true);
    expect(pages[0]).toContain('lets go');
    expect(pages[0]).toContain('> plop');
    expect(pages[1]).toContain('(4)');
  });

  it('prints charts and their fractions when asked', async () => {
    const pages = textOf(await sheetPdf(project, shot, { ...choices, charts: true }, NO_SOUNDS, FACES, null));
    expect(pages).toHaveLength(3);
    expect(pages[0]).toContain('1/4');
    expect(pages[2]).toContain('Sock 1 to 4');
    expect(pages[2]).toContain('halves to 1');
    expect(textOf(await sheetPdf(project, shot, choices, NO_SOUNDS, FACES, null))[0]).not.toContain('1/4');
  });

  it.each(['a4', 'letter'] as const)('is on %s', async (paper) => {
    const document = await PDFDocument.load(await sheetPdf(project, shot, { ...choices, paper, framesAPage: 100 }, NO_SOUNDS, FACES, null));
    expect(document.getPageCount()).toBe(2);
    expect(document.getPage(0).getSize()).toEqual({ width: PAPERS[paper].width, height: PAPERS[paper].height });
  });

  it('has Latin letters of many languages in its own face, side by side with the others', async () => {
    const note = 'Łódź, žluťoučký kůň, İğne, ő, Straße';
    expect(textOf(await sheetPdf(project, { ...shot, note }, choices, NO_SOUNDS, FACES, null))[0]).toContain(`Note: ${note}`);
  });

  it('names letters it has none for by their number where nobody makes pictures of words', async () => {
    const pages = textOf(await sheetPdf(project, { ...shot, note: '紙 ß' }, choices, NO_SOUNDS, FACES, null));
    expect(pages[0]).toContain('Note: U+7D19 ß');
  });

  it('lays pictures of words where letters are missing, once on each page they are on, cut where they are too wide', async () => {
    const made: string[] = [];
    const png = await sharp({ create: { width: 60, height: 20, channels: 4, background: '#203020' } })
      .png()
      .toBuffer();
    const maker: WordsMaker = {
      widthPt: (words, size) => words.length * size,
      picture: async (words, sizePt) => {
        made.push(words);
        return { png, widthPt: words.length * sizePt, heightPt: sizePt * 1.4, abovePt: sizePt };
      },
    };
    const notes = [{ frame: 3, kind: 'word' as const, words: 'とても長い言葉が続いています'.repeat(4) }];
    const pdf = await sheetPdf(project, { ...shot, note: 'كلمة', notes }, choices, NO_SOUNDS, FACES, maker);
    expect(made).toEqual(['Note: كلمة', expect.stringMatching(/^“とても長.*…$/), 'Note: كلمة']);
    const listed = execFileSync('pdfimages', ['-list', '-'], { input: Buffer.from(pdf), encoding: 'utf8' });
    expect(listed.split('\n').filter((line) => / 60 +20 .* rgb /.test(line)).length).toBe(3);
    expect(textOf(pdf)[0]).toContain('120 frames at 24/1');
  });
});

/** Grey levels of a page, as poppler draws it at 72 dots an inch. */
async function pageAsGreys(pdf: Uint8Array): Promise<{ readonly greys: Buffer; readonly width: number }> {
  const png = execFileSync('pdftoppm', ['-r', '72', '-f', '1', '-l', '1', '-png', '-'], { input: Buffer.from(pdf) });
  const { data, info } = await sharp(png).greyscale().raw().toBuffer({ resolveWithObject: true });
  return { greys: data, width: info.width };
}

describe('sounds beside the frames', () => {
  const sound = (startFrame: number, endFrame: number, loudness: readonly number[]): PrintedSounds => ({
    sounds: [{ name: 'Hum', lane: 0, startFrame, endFrame, loudness }],
    lanes: 1,
  });
  /** How many dots of the column of sounds are dark beside a frame of the first half. */
  const darkBeside = async (heard: PrintedSounds, frames: readonly number[]) => {
    const { greys, width } = await pageAsGreys(await sheetPdf(project, shot, choices, heard, FACES, null));
    const layout = layOutPages('a4', 96, 120, 2, heard.lanes);
    const left = Math.ceil(layout.halfLeft(0) + layout.rulerWidth) + 1;
    const right = Math.floor(left + layout.soundsWidth) - 3;
    return frames.map((frame) => {
      const middle = Math.round(layout.paper.height - layout.rowsTop + (frame + 0.5) * layout.rowHeight);
      let dark = 0;
      for (let x = left; x < right; x++) if ((greys[middle * width + x] as number) < 200) dark++;
      return dark;
    });
  };

  it('are as wide as they are loud, on the frames on which they are heard and on no other', async () => {
    const loudness = Array.from({ length: 20 * PRINTED_PARTS }, (_, part) => (part < 10 * PRINTED_PARTS ? 1 : 0.4));
    const [before, loud, soft, after] = await darkBeside(sound(10, 30, loudness), [8, 15, 25, 31]);
    expect([before, after]).toEqual([0, 0]);
    expect(loud).toBeGreaterThanOrEqual(9);
    expect(soft).toBeGreaterThan(2);
    expect(soft).toBeLessThan((loud as number) / 1.5);
  });

  it('that began before the shot are printed from where they are heard', async () => {
    const loudness = [...new Array(10 * PRINTED_PARTS).fill(0), ...new Array(10 * PRINTED_PARTS).fill(1)];
    const [first, later] = await darkBeside(sound(-10, 10, loudness), [2, 12]);
    expect(first).toBeGreaterThanOrEqual(9);
    expect(later).toBe(0);
  });

  it('that nobody could listen to are lines, and have their name', async () => {
    const pages = textOf(await sheetPdf(project, shot, choices, sound(10, 30, []), FACES, null));
    expect(pages[0]).toContain('Sound');
    expect(pages[0]).toContain('Hum');
    const [beside] = await darkBeside(sound(10, 30, []), [20]);
    expect(beside).toBeGreaterThanOrEqual(1);
    expect(beside).toBeLessThanOrEqual(2);
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
