import { execFileSync } from 'node:child_process';
import sharp from 'sharp';
import { describe, expect, it } from 'vitest';
import type { Shot } from '@/core/document/model';
import { columnsOfOnePage, contactEntries, contactPages, widthOfColumns } from '@/core/format/contact/contactSheet';
import { contactPdf } from '@/core/format/pdf/contactPdf';
import { printFaces } from '@/core/testing/printFaces';
import { levelOf, pictureOf, projectOf, shotOf } from '@/core/testing/sheets';

const entries = (shot: Shot) => contactEntries(shot).map(({ level, drawing, frames }) => [level.name, drawing.number, frames]);

describe('a contact sheet', () => {
  it('has every drawing once, with the frames it is seen on', () => {
    const shot = shotOf([levelOf('Sock', '1*2 2 1*2 .', { extra: ['9'] }), levelOf('Yard', '1', { kind: 'still' })], 6);
    expect(entries(shot)).toEqual([
      ['Yard', '1', [0, 1, 2, 3, 4, 5]],
      ['Sock', '1', [0, 1, 3, 4]],
      ['Sock', '2', [2]],
      ['Sock', '9', []],
    ]);
  });

  it('is a PDF whose pages say so, as poppler reads them, with the pictures on them', async () => {
    const project = projectOf(shotOf([levelOf('Sock', '1*2 2 1*2', { pictures: 'a' })], 6));
    const jpeg = await sharp({ create: { width: 320, height: 180, channels: 3, background: '#88aa44' } })
      .jpeg()
      .toBuffer();
    const asked: string[] = [];
    const pdf = await contactPdf(project, project.shots[0] as Shot, 'a4', printFaces(), null, async (picture) => {
      asked.push(picture);
      return jpeg;
    });
    expect(asked).toEqual([pictureOf('a')]);
    const text = execFileSync('pdftotext', ['-layout', '-', '-'], { input: Buffer.from(pdf), encoding: 'utf8' });
    expect(text).toContain('2 drawings, 1 drawn; 6 frames at 24/1 = 0.250 s');
    expect(text).toMatch(/Sock 1 +Sock 2/);
    expect(text).toMatch(/frames 1–2, 4–5 +frame 3/);
    expect(text).toContain('not drawn yet');
    expect(execFileSync('pdfimages', ['-list', '-'], { input: Buffer.from(pdf), encoding: 'utf8' })).toMatch(/320 +180 .*jpeg/);
  });

  it('writes all frames of a drawing on as many lines as they need, and counts the rest where there are very many', () => {
    const cycle = (times: number) => projectOf(shotOf([levelOf('Line', Array.from({ length: times }, () => '1*2 2*2').join(' '))]));
    const said = (times: number) => {
      const project = cycle(times);
      const [page] = contactPages(project, project.shots[0] as Shot, { width: 595, height: 842, columns: 4 });
      const frames = page?.marks.flatMap((mark) => (mark.kind === 'words' && mark.size === 7.5 && mark.left === 30 ? [mark] : [])) ?? [];
      expect(new Set(frames.map(({ bottom }) => bottom)).size).toBe(frames.length);
      return frames.map((mark) => mark.words).join(' ');
    };
    expect(said(6)).toBe('frames 1–2, 5–6, 9–10, 13–14, 17–18, 21–22');
    const many = said(100);
    const shown = [...many.matchAll(/\d+–\d+/g)].length;
    expect(many).toMatch(new RegExp(`and ${100 - shown} more places$`));
    expect(shown).toBeGreaterThan(8);
  });

  it.each([1, 7, 200, 1000])('of %i drawings on one page has each in a place of its own, inside the page', (drawings) => {
    const numbers = Array.from({ length: drawings }, (_, index) => index + 1);
    const project = projectOf(shotOf([levelOf('Sock', numbers.join(' '))], drawings));
    const shot = project.shots[0] as Shot;
    const columns = columnsOfOnePage(project, shot, 128);
    const [page, ...others] = contactPages(project, shot, { width: widthOfColumns(columns, 128), height: null, columns });
    expect(others).toEqual([]);
    const places = page?.marks.flatMap((mark) => (mark.kind === 'picture' ? [mark] : [])) ?? [];
    expect(new Set(places.map(({ left, top }) => `${left} ${top}`)).size).toBe(drawings);
    for (const { left, top, width, height } of places) {
      expect(width).toBeCloseTo(128, 6);
      expect(left + width).toBeLessThanOrEqual((page?.width ?? 0) - 29);
      expect(top + height).toBeLessThanOrEqual((page?.height ?? 0) - 29);
    }
    // About as wide as high where there are many of them.
    if (drawings > 9) expect((page?.width ?? 0) / (page?.height ?? 1)).toBeGreaterThan(0.7);
    if (drawings > 9) expect((page?.width ?? 0) / (page?.height ?? 1)).toBeLessThan(1.4);
  });
});
