import { encode } from 'fast-png';
import { writePng } from '@/core/format/png/writePng';
import { packRows } from '@/workers/output/pictures/packRows';

/**
 * The PNG a drawing is kept as: its pixels as they are (RGBA, 8 bits each, straight alpha). The browser's own zlib packs them in about
 * a tenth of the time a script takes, on a machine whose other core has the pen to follow; a browser without one leaves it to the script.
 */
export async function keptPng(width: number, height: number, rgba: Uint8Array): Promise<Uint8Array> {
  const facts = { width, height, channels: 4, depth: 8 } as const;
  if (typeof CompressionStream === 'undefined') return encode({ ...facts, data: rgba }, { zlib: { level: 1 } });
  return writePng(facts, await packRows(rgba, facts));
}
