import { afterEach, describe, expect, it, vi } from 'vitest';
import { lastTroubles, log } from '@/server/log';

afterEach(() => vi.restoreAllMocks());

describe('the log', () => {
  it('writes a line of JSON with a time and an error’s reason, and keeps the last fifty troubles', () => {
    const lines: string[] = [];
    vi.spyOn(process.stdout, 'write').mockImplementation((text) => lines.push(String(text)) > 0);
    log.info('calm');
    for (let at = 0; at < 60; at++) log.error({ err: new Error(`reason ${at}`) }, 'it broke');
    expect(lines).toHaveLength(60);
    const line = JSON.parse(lines[0] ?? '') as { level: number; time: string; msg: string; err: { message: string; at: string[] } };
    expect(line).toMatchObject({ level: 50, msg: 'it broke', err: { message: 'reason 0' } });
    expect(new Date(line.time).toISOString()).toBe(line.time);
    expect(line.err.at[0]).toContain('log.test.ts');
    expect(lastTroubles()).toHaveLength(50);
    expect(lastTroubles()[0]).toMatchObject({ words: 'it broke', reason: 'reason 59' });
  });

  it('holds nothing of what a statement was given', () => {
    const lines: string[] = [];
    vi.spyOn(process.stdout, 'write').mockImplementation((text) => lines.push(String(text)) > 0);
    const cause = Object.assign(new Error('disk full'), { code: '53100' });
    log.error({ err: new Error('Failed query: insert into pictures values ($1)\nparams: 89504e470d0a1a0a', { cause }) }, 'a picture');
    expect(lines.join('')).not.toContain('89504e47');
    expect(JSON.parse(lines[0] ?? '')).toMatchObject({
      err: { message: 'Failed query: insert into pictures values ($1)', cause: { message: 'disk full', code: '53100' } },
    });
  });
});
