import type { Outcome } from '@/core/outcome';
import { CONTAINER_CODECS, type Container, type FilmOptions, isLossless, isOutside, startFilmOptions } from '@/core/output/film';
import { type FormatOptions, refuseByCarries } from '@/core/output/format';
import { fileOf, type OutputFormat } from '@/workers/output/outputFormat';

/** What is asked of a film. Throws when it is asked of something else. */
function filmOptions(options: FormatOptions): FilmOptions {
  if (options.kind !== 'film') throw new Error('A film is asked for as a film.');
  return options;
}

/** A film in one of the containers: what differs between them is data, see `@/core/output/film`. */
export function filmFormat(container: Container, name: string): OutputFormat {
  const format: OutputFormat = {
    id: container,
    name,
    group: 'film',
    files: { kind: 'one', extension: container },
    carries: { rates: 'any', sizes: 'even', transparency: CONTAINER_CODECS[container].transparency, sound: true, colours: 'near' },
    start: startFilmOptions(container),
    compares: (options, ground) => {
      const { video, depth } = filmOptions(options);
      if (!isLossless(video)) return 'film';
      // Ten bits a colour with transparency come back a level off where they are brought to eight.
      return depth === 10 && ground === 'none' ? 'clearPicture' : 'exact';
    },
    refuse: (plan): Outcome<null> => refuseByCarries(format, plan),
    load: async () => {
      await Promise.all([import('@/workers/output/film/writeFilm'), import('@/workers/output/film/readFilm')]);
    },
    write: async (plan, sink, job) => {
      const options = filmOptions(job.options);
      if (isOutside(options.video)) {
        const { writeOutside } = await import('@/workers/output/film/writeOutside');
        return writeOutside(plan, container, options, sink, job);
      }
      const { writeFilm } = await import('@/workers/output/film/writeFilm');
      return writeFilm(plan, container, options, sink, job);
    },
    readBack: async (source, stop) => {
      const { readFilm } = await import('@/workers/output/film/readFilm');
      return readFilm(fileOf(source), stop, source.kind === 'file' ? source.copyAt : null);
    },
  };
  return format;
}
