'use client';
import { Later, part } from '@/ui/later';

const loneDesk = part(async () => (await import('@/features/counting/LoneDesk')).LoneDesk);

/** The counting desk by itself: it needs the browser, so that nothing of it is made before it is there. */
export function OpenDesk() {
  return <Later of={loneDesk} props={{}} />;
}
