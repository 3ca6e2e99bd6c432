import { refuseByCarries } from '@/core/output/format';
import { fileOf, type OutputFormat } from '@/workers/output/outputFormat';

/** A film for the editor or the web: VP9 in a WebM, 4:2:0, without sound and transparency. */
export const webm: OutputFormat = {
  id: 'webm',
  name: 'WebM, VP9',
  group: 'film',
  files: { kind: 'one', extension: 'webm' },
  carries: { rates: 'any', sizes: 'even', transparency: false, sound: false, colours: 'near' },
  refuse: (plan) => refuseByCarries(webm, plan),
  write: async (plan, sink, job) => {
    const { writeFilm } = await import('@/workers/output/film/writeFilm');
    return writeFilm(plan, { codec: 'vp9', codecName: 'VP9', container: 'webm' }, sink, job);
  },
  readBack: async (source, stop) => {
    const { readFilm } = await import('@/workers/output/film/readFilm');
    return readFilm(fileOf(source), stop);
  },
};
