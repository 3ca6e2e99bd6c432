/** How a database that can't be reached, or is just stopping or starting, is told: codes of the system, and of PostgreSQL (appendix A, classes 08, 57P, and 53 for a full disk). */
const AWAY = /^(ECONN\w+|EPIPE|ENOTFOUND|EAI_AGAIN|ETIMEDOUT|EHOSTUNREACH|08\w{3}|57P0[123]|53\w{3}|ENOSPC)$/;

/** What the driver says without a code: the connection went away under a question, or before the next one on it, as the taking back of what it had begun is. */
const GONE_WORDS = /Connection terminated|connection timeout|timeout exceeded when trying to connect|is not queryable/i;

/** Whether an error says that the database is away for now. */
export function isAway(error: unknown): boolean {
  for (let each = error; each instanceof Error; each = each.cause) {
    const { code } = each as NodeJS.ErrnoException;
    if (typeof code === 'string' && AWAY.test(code)) return true;
    if (GONE_WORDS.test(each.message)) return true;
    if (each instanceof AggregateError && each.errors.some(isAway)) return true;
  }
  return false;
}
