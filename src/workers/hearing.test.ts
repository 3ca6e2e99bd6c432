import { describe, expect, it } from 'vitest';
import { hearing } from '@/workers/hearing';

describe('what a worker tells meanwhile', () => {
  it('is heard until its answer, and not after, whichever port is read first', async () => {
    let tell: (done: number) => void = () => undefined;
    let answer: (said: string) => void = () => undefined;
    const heard: number[] = [];
    const said = hearing((hears) => {
      tell = hears((done: number) => void heard.push(done));
      return new Promise<string>((resolve) => {
        answer = resolve;
      });
    });
    tell(1);
    answer('all is looked at');
    expect(await said).toBe('all is looked at');
    tell(2);
    expect(heard).toEqual([1]);
  });

  it('is not heard after a failure', async () => {
    let tell: (done: number) => void = () => undefined;
    const heard: number[] = [];
    const said = hearing((hears) => {
      tell = hears((done: number) => void heard.push(done));
      return Promise.reject(new Error('The worker ended.'));
    });
    await expect(said).rejects.toThrow('The worker ended.');
    tell(1);
    expect(heard).toEqual([]);
  });
});
