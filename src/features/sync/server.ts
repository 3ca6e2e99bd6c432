import { create } from 'zustand';
import { Retryer, type Trouble } from '@/features/sync/retryer';

/** Whether the server answers; null when it does, or was not asked yet. */
export const useServerStore = create<{ readonly trouble: Trouble | null }>(() => ({ trouble: null }));

/** What everybody waits at who asks the server again. */
export const serverRetryer = new Retryer(
  {
    now: () => Date.now(),
    after: (milliseconds, done) => {
      const timer = setTimeout(done, milliseconds);
      return () => clearTimeout(timer);
    },
    random: Math.random,
    isOnline: () => typeof navigator === 'undefined' || navigator.onLine !== false,
  },
  (trouble) => useServerStore.setState({ trouble }),
);

if (typeof window !== 'undefined') {
  window.addEventListener('online', () => serverRetryer.wake());
  window.addEventListener('offline', () => serverRetryer.pause());
}
