import { mp4 } from '@/workers/output/formats/mp4';
import { pngFolder } from '@/workers/output/formats/pngFolder';
import { pngZip } from '@/workers/output/formats/pngZip';
import { webm } from '@/workers/output/formats/webm';
import type { OutputFormat } from '@/workers/output/outputFormat';

/** Every format there is, in the order they are offered. Their writers and readers are loaded when they are used. */
export const FORMATS: readonly OutputFormat[] = [mp4, webm, pngZip, pngFolder];
