import { refuseByCarries } from '@/core/output/format';
import { fileOf, type OutputFormat } from '@/workers/output/outputFormat';

/** A film for the editor or the web: H.264 in an MP4, 4:2:0, without sound and transparency. */
export const mp4: OutputFormat = {
  id: 'mp4',
  name: 'MP4, H.264',
  group: 'film',
  files: { kind: 'one', extension: 'mp4' },
  carries: { rates: 'any', sizes: 'even', transparency: false, sound: false, colours: 'near' },
  refuse: (plan) => refuseByCarries(mp4, plan),
  write: async (plan, sink, job) => {
    const { writeFilm } = await import('@/workers/output/film/writeFilm');
    return writeFilm(plan, { codec: 'avc', codecName: 'H.264', container: 'mp4' }, sink, job);
  },
  readBack: async (source, stop) => {
    const { readFilm } = await import('@/workers/output/film/readFilm');
    return readFilm(fileOf(source), stop);
  },
};
