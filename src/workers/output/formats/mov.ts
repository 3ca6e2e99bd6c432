import { filmFormat } from '@/workers/output/formats/film';

/** A film for the editor, with sound that keeps every sample. */
export const mov = filmFormat('mov', 'MOV');
