import { PictureCache } from '@/workers/client';

/** Decoded pictures of the page, shared by everything that shows drawings. */
export const pictures = new PictureCache();
