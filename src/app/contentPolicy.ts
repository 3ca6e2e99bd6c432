import { createHash } from 'node:crypto';
import { LOOP_PAGE_SCRIPT } from '@/core/format/page/loopPage';

/** The one program that is written into a page of our own and tried in a frame without an address: it takes the policy of the page around it. */
const LOOP_PAGE_HASH = `'sha256-${createHash('sha256').update(LOOP_PAGE_SCRIPT).digest('base64')}'`;

/**
 * What a page of Lime Tick may load and do (W3C Content Security Policy, level 3): its own programs, which are told by their
 * address or by `nonce`, and what it has made itself. Nothing may stand around it in a frame.
 */
export function contentPolicy(nonce: string, isDevelopment: boolean): string {
  return [
    "default-src 'none'",
    // Samples and pixels are worked on by compiled code, which is told apart from text that is run.
    `script-src 'self' 'nonce-${nonce}' ${LOOP_PAGE_HASH} 'wasm-unsafe-eval'${isDevelopment ? " 'unsafe-eval'" : ''}`,
    // Places and sizes are set at the element itself.
    "style-src 'self' 'unsafe-inline'",
    "img-src 'self' blob: data:",
    "media-src 'self' blob:",
    "font-src 'self'",
    `connect-src 'self' blob: data:${isDevelopment ? ' ws:' : ''}`,
    "worker-src 'self' blob:",
    'frame-src blob:',
    "manifest-src 'self'",
    "form-action 'self'",
    "base-uri 'none'",
    "object-src 'none'",
    "frame-ancestors 'none'",
  ].join('; ');
}
