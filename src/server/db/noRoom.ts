/** PostgreSQL's "disk_full" (appendix A of its manual), and what systems say where a disk, or a share of it, is full. */
const CODES = /^(53100|ENOSPC|EDQUOT)$/;

/** Whether something failed since the disk that holds the data is full. */
export function hasNoRoom(error: unknown): boolean {
  for (let each = error; each instanceof Error; each = each.cause) {
    const { code } = each as NodeJS.ErrnoException;
    if (typeof code === 'string' && CODES.test(code)) return true;
    if (/No space left on device|ENOSPC/i.test(each.message)) return true;
  }
  return false;
}
