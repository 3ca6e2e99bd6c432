import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest';
import { handDraws, handRests, REST_MILLISECONDS } from '@/features/sync/hand';

/** A page that can be put out of sight. */
class FakePage extends EventTarget {
  hidden = false;
  hide(): void {
    this.hidden = true;
    this.dispatchEvent(new Event('visibilitychange'));
  }
}

const MOST_MILLISECONDS = 5000;

/** Waits for the hand, and tells whether it has come to rest. */
function waitingForHand() {
  const state = { rests: false };
  void handRests(MOST_MILLISECONDS).then(() => {
    state.rests = true;
  });
  return state;
}

describe('the hand that draws', () => {
  let page: FakePage;
  beforeEach(() => {
    vi.useFakeTimers();
    page = new FakePage();
    vi.stubGlobal('document', page);
  });
  afterEach(() => {
    vi.unstubAllGlobals();
    vi.useRealTimers();
  });

  it('is not waited for when nobody draws', async () => {
    const waiting = waitingForHand();
    await vi.advanceTimersByTimeAsync(0);
    expect(waiting.rests).toBe(true);
  });

  it('rests a moment after the last that was drawn', async () => {
    handDraws();
    const waiting = waitingForHand();
    await vi.advanceTimersByTimeAsync(REST_MILLISECONDS - 100);
    handDraws();
    await vi.advanceTimersByTimeAsync(REST_MILLISECONDS - 1);
    expect(waiting.rests).toBe(false);
    await vi.advanceTimersByTimeAsync(1);
    expect(waiting.rests).toBe(true);
  });

  it('that never rests is waited for no longer than was said', async () => {
    handDraws();
    const waiting = waitingForHand();
    for (let drawn = 0; drawn < MOST_MILLISECONDS - 100; drawn += 100) {
      await vi.advanceTimersByTimeAsync(100);
      handDraws();
    }
    expect(waiting.rests).toBe(false);
    await vi.advanceTimersByTimeAsync(100);
    expect(waiting.rests).toBe(true);
  });

  it('is not waited for on a page that is put out of sight', async () => {
    handDraws();
    const waiting = waitingForHand();
    await vi.advanceTimersByTimeAsync(1);
    expect(waiting.rests).toBe(false);
    page.hide();
    await vi.advanceTimersByTimeAsync(0);
    expect(waiting.rests).toBe(true);
  });
});
