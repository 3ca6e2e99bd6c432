import type { Project, Shot } from '@/core/document/model';
import { contactEntries } from '@/core/format/contact/contactSheet';
import { fileNamePart } from '@/core/output/sequenceNames';
import { plural } from '@/core/time/counts';
import type { TimingFile } from '@/features/handover/timingFiles';
import { print } from '@/workers/client';

/** A shot's drawings, each once with its frames, on paper or as one picture. Rejects when the server doesn't answer, or when it is stopped. */
export async function contactFile(
  project: Project,
  shot: Shot,
  kind: 'pdf' | 'png',
  onProgress: (part: number) => void,
  stop: AbortSignal,
): Promise<TimingFile> {
  const what = kind === 'pdf' ? ({ kind: 'contactPdf', paper: 'a4' } as const) : ({ kind: 'contactPng' } as const);
  const entries = contactEntries(shot);
  const drawn = entries.filter(({ drawing }) => drawing.picture).length;
  return {
    name: `${fileNamePart(project.title)} ${fileNamePart(shot.code)} drawings.${kind}`,
    content: await print({ project, shot, what }, onProgress, stop),
    found: `${plural(entries.length, 'drawing')}, each once, ${drawn} drawn.`,
  };
}
