import { expose, transfer } from 'comlink';
import { encode } from 'fast-png';
import { boundsOfPixels } from '@/core/raster/bounds';
import { canonicalisePixels, digestOfPixels } from '@/core/raster/digest';
import type { PictureWorker } from '@/workers/protocol';

const worker: PictureWorker = {
  async keep(width, height, rgba) {
    canonicalisePixels(rgba);
    if (boundsOfPixels(width, height, rgba) === null) return null;
    const digest = await digestOfPixels(width, height, rgba);
    const png = encode({ width, height, data: rgba, channels: 4, depth: 8 }, { zlib: { level: 1 } });
    return transfer({ digest, png }, [png.buffer]);
  },
};

expose(worker);
