/** Opens the database before the first request, and stops the server with a sentence when that can't be done. */
export async function register(): Promise<void> {
  if (process.env.NEXT_RUNTIME !== 'nodejs') return;
  const { endWhenTold, openAtStart, settleAccessAtStart } = await import('@/server/service/start');
  settleAccessAtStart();
  endWhenTold();
  await openAtStart();
  const { sweepNowAndThen } = await import('@/server/service/sweep');
  sweepNowAndThen();
}
