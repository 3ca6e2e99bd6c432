import type { z } from 'zod';

/** What is wrong with a message, as one sentence naming the property. */
export function sentenceOf(error: z.ZodError): string {
  const issue = error.issues[0];
  if (!issue) return 'The message was not understood.';
  if (/[.!?]$/.test(issue.message) && issue.code === 'custom') return issue.message;
  const where = issue.path.length > 0 ? `“${issue.path.join('.')}” is wrong: ` : '';
  return `${where}${issue.message}${/[.!?]$/.test(issue.message) ? '' : '.'}`;
}
