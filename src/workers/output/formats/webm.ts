import { filmFormat } from '@/workers/output/formats/film';

/** A film for the web, with transparency where it is asked for. */
export const webm = filmFormat('webm', 'WebM');
