import fc from 'fast-check';
import { expect, it } from 'vitest';
import { utf8 } from '@/core/utf8';

it('is what every text encoder makes of a text', () => {
  const anyText = fc.oneof(fc.string({ unit: 'binary' }), fc.string({ unit: 'grapheme' }), fc.constant('a\uD83Eb'));
  fc.assert(
    fc.property(anyText, (text) => {
      expect([...utf8(text)]).toEqual([...new TextEncoder().encode(text)]);
    }),
  );
});
