import { filmFormat } from '@/workers/output/formats/film';

/** A film that holds whatever there is, with transparency where it is asked for. */
export const mkv = filmFormat('mkv', 'MKV');
