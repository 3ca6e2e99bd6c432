import fc from 'fast-check';
import { expect, it } from 'vitest';
import { type Caption, readCaptions, writeSubRip, writeWebVtt } from '@/core/format/captions/captions';
import { mustBeDone } from '@/core/outcome';

const CAPTIONS: readonly Caption[] = [
  { startMilliseconds: 1250, endMilliseconds: 2000, words: 'Wind' },
  { startMilliseconds: 3_600_000, endMilliseconds: 3_601_042, words: '[plop] & <hum>' },
];

it('SubRip and WebVTT say times and words as each has them', () => {
  expect(writeSubRip(CAPTIONS).replaceAll('\r\n', '\n')).toBe(
    '1\n00:00:01,250 --> 00:00:02,000\nWind\n\n2\n01:00:00,000 --> 01:00:01,042\n[plop] & <hum>\n',
  );
  expect(writeWebVtt(CAPTIONS)).toBe(
    'WEBVTT\n\n00:00:01.250 --> 00:00:02.000\nWind\n\n01:00:00.000 --> 01:00:01.042\n[plop] &amp; &lt;hum&gt;\n',
  );
});

it('both come back as they were', () => {
  const words = fc
    .stringMatching(/^[A-Za-zéß&<>;.,!?' ]{1,40}$/)
    .filter((text) => text.trim() === text && text !== '' && !text.includes('-->'));
  const captions = fc.array(
    fc
      .tuple(fc.nat(90_000_000), fc.integer({ min: 1, max: 10_000 }), words)
      .map(([start, length, text]): Caption => ({ startMilliseconds: start, endMilliseconds: start + length, words: text })),
    { minLength: 1, maxLength: 20 },
  );
  fc.assert(
    fc.property(captions, (all) => {
      expect(mustBeDone(readCaptions(writeSubRip(all)))).toEqual(all);
      expect(mustBeDone(readCaptions(writeWebVtt(all)))).toEqual(all);
    }),
  );
});

it('words that would end a block or be taken for a time are kept from doing so', () => {
  const [caption] = mustBeDone(readCaptions(writeSubRip([{ startMilliseconds: 0, endMilliseconds: 1, words: 'a\n\nb --> c' }])));
  expect(caption?.words).toBe('a\nb → c');
});

it('a time that is none, and a text without any, are refused', () => {
  expect(readCaptions('1\n00:00:xx --> 00:00:01,000\nHello\n')).toMatchObject({ ok: false });
  expect(readCaptions('Once upon a time').ok).toBe(false);
});
