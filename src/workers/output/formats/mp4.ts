import { filmFormat } from '@/workers/output/formats/film';

/** A film for the editor or the web. */
export const mp4 = filmFormat('mp4', 'MP4');
