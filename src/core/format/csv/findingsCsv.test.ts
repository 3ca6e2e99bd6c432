import { describe, expect, it } from 'vitest';
import { writeFindingsCsv } from '@/core/format/csv/findingsCsv';

const ROW = { group: 'Slips', kind: 'gap', shot: '020', level: 'Pegs', fromFrame: 37, toFrame: 37, sentence: 'Blank.', kept: null };

describe('findings as CSV', () => {
  it('have a row each, with lines that end as RFC 4180 has it', () =>
    expect(writeFindingsCsv([ROW, { ...ROW, kept: 'a blink' }])).toBe(
      'needs,kind,shot,level,from frame,to frame,finding,state,note\r\nSlips,gap,020,Pegs,37,37,Blank.,open,\r\nSlips,gap,020,Pegs,37,37,Blank.,kept as intended,a blink\r\n',
    ));

  it('quotes commas and quotes, leaves places out that are none, and disarms formulas', () => {
    const text = writeFindingsCsv([{ ...ROW, level: '=SUM(A1)', fromFrame: null, toFrame: null, sentence: 'A, "b"', kept: '-x' }]);
    expect(text.split('\r\n')[1]).toBe(`Slips,gap,020,'=SUM(A1),,,"A, ""b""",kept as intended,'-x`);
  });
});
