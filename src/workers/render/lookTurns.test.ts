import { describe, expect, it } from 'vitest';
import type { Look } from '@/workers/render/looks';
import { LookTurns } from '@/workers/render/lookTurns';

const look = (digest: string, widthPx: number): Look => ({ digest, widthPx });

/** Turns that tell what they did, whose pictures come when they are let. */
function turnsTold() {
  const told: string[] = [];
  const coming = new Map<string, { come: () => void; fail: (reason: Error) => void }>();
  const turns = new LookTurns<string, string>(
    (digest) => {
      told.push(`whole ${digest}`);
      return new Promise((resolve, reject) => coming.set(digest, { come: () => resolve(digest), fail: reject }));
    },
    async (whole, { widthPx }) => {
      if (widthPx === 0) throw new Error('no width');
      told.push(`${whole} at ${widthPx}`);
      return `${whole}@${widthPx}`;
    },
  );
  const settle = async () => {
    for (let turn = 0; turn < 20; turn++) await Promise.resolve();
  };
  return {
    told,
    turns,
    settle,
    come: (digest: string) => coming.get(digest)?.come(),
    fail: (digest: string, reason: Error) => coming.get(digest)?.fail(reason),
  };
}

describe('turns of looks', () => {
  it('have each picture once for all its looks, in the order pictures were first asked for', async () => {
    const { told, turns, settle, come } = turnsTold();
    const all = Promise.all([look('a', 10), look('b', 10), look('a', 20), look('c', 10), look('b', 30)].map((each) => turns.look(each)));
    await settle();
    expect(told).toEqual(['whole a']);
    // What is asked for while its picture is still coming is made with the others.
    const late = turns.look(look('a', 40));
    come('a');
    await settle();
    come('b');
    await settle();
    come('c');
    expect(await all).toEqual(['a@10', 'b@10', 'a@20', 'c@10', 'b@30']);
    expect(await late).toBe('a@40');
    expect(told).toEqual(['whole a', 'a at 10', 'a at 20', 'a at 40', 'whole b', 'b at 10', 'b at 30', 'whole c', 'c at 10']);
  });

  it('go on past a picture that doesn’t come and a look that can’t be made', async () => {
    const { turns, settle, come, fail } = turnsTold();
    const lost = [turns.look(look('a', 10)), turns.look(look('a', 20))];
    const [bad, good] = [turns.look(look('b', 0)), turns.look(look('b', 10))];
    const told = Promise.allSettled([...lost, bad, good]);
    await settle();
    fail('a', new Error('not in the store'));
    await settle();
    come('b');
    expect((await told).map((each) => (each.status === 'fulfilled' ? each.value : (each.reason as Error).message))).toEqual([
      'not in the store',
      'not in the store',
      'no width',
      'b@10',
    ]);
  });

  it('are at rest only when no picture is used', async () => {
    const { told, turns, settle, come } = turnsTold();
    turns.whenAtRest(() => told.push('at rest'));
    expect(told).toEqual(['at rest']);
    const first = turns.look(look('a', 10));
    turns.whenAtRest(() => told.push('at rest again'));
    const second = turns.look(look('b', 10));
    expect([turns.isWaiting('a'), turns.isWaiting('b'), turns.isWaiting('c')]).toEqual([true, true, false]);
    await settle();
    come('a');
    await settle();
    come('b');
    await Promise.all([first, second]);
    await settle();
    expect(told).toEqual(['at rest', 'whole a', 'a at 10', 'whole b', 'b at 10', 'at rest again']);
    expect(turns.isWaiting('b')).toBe(false);
    // What is asked for afterwards has its turn again.
    const again = turns.look(look('a', 30));
    await settle();
    come('a');
    expect(await again).toBe('a@30');
  });
});
