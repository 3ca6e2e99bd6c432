import { PictureCache } from '@/workers/client';

/** How often the page gives back the memory of pictures it has not shown for long. */
const TRIM_MILLISECONDS = 2000;

/** Decoded pictures of the page, shared by everything that shows drawings. */
export const pictures = new PictureCache();

// Painting takes its pictures and draws them within one task, so between tasks none is in use but those just fetched, which are the last to go.
if (typeof window !== 'undefined') setInterval(() => pictures.trim(), TRIM_MILLISECONDS);
