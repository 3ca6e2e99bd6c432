import type { Outcome } from '@/core/outcome';
import { type Comparing, type FormatOptions, refuseByCarries } from '@/core/output/format';
import { PICTURE_KIND_FACTS, type PictureKind, type PictureOptions, startPictureOptions } from '@/core/output/pictures';
import { type OutputFormat, OutputRefused } from '@/workers/output/outputFormat';
import { helpersOfJob } from '@/workers/output/pictures/helpersOfJob';
import type { Ground } from '@/workers/render/compositor';
import type { RenderedPicture } from '@/workers/render/renderedPicture';

/** What is asked of picture files. Throws when it is asked of something else. */
function pictureOptions(options: FormatOptions): PictureOptions {
  if (options.kind !== 'pictures') throw new Error('Pictures are asked for as pictures.');
  return options;
}

async function writing() {
  const { folderOfPictures, zipOfPictures } = await import('@/workers/output/pictures/pictureFiles');
  const { writePictures } = await import('@/workers/output/pictures/writePictures');
  const { takeOwnPicture } = await import('@/workers/output/pictures/packPicture');
  return { folderOfPictures, zipOfPictures, writePictures, takeOwnPicture };
}
const reading = () => import('@/workers/output/pictures/readPictures');

/** Picture files of one kind: what differs between them is data, see `@/core/output/pictures`. */
function pictureFormat(kind: PictureKind): OutputFormat {
  const { name, extension, alphas, lossy } = PICTURE_KIND_FACTS[kind];
  const hasAlpha = alphas.length > 0;
  const pictureComparing = ({ quality, alpha }: PictureOptions, ground: Ground): Exclude<Comparing, 'film'> => {
    // A WebP is made and read by the browser, whose canvas keeps half-transparent colours a little off.
    if (quality !== null || (kind === 'webp' && ground === 'none')) return hasAlpha ? 'clearPicture' : 'picture';
    return alpha === 'premultiplied' ? 'premultiplied' : 'exact';
  };
  const format: OutputFormat = {
    id: kind,
    name,
    group: 'pictures',
    files: { kind: 'numbered', extension },
    carries: { rates: 'none', sizes: 'any', transparency: hasAlpha, sound: false, colours: lossy === 'always' ? 'near' : 'exact' },
    start: startPictureOptions(kind),
    compares: (options, ground) => pictureComparing(pictureOptions(options), ground),
    refuse: (plan): Outcome<null> => refuseByCarries(format, plan),
    load: async () => {
      await Promise.all([writing(), reading(), helpersOfJob()]);
    },
    write: async (plan, sink, job) => {
      const options = pictureOptions(job.options);
      const { folderOfPictures, zipOfPictures, writePictures, takeOwnPicture } = await writing();
      if (options.within === 'folder' && !sink.folder)
        throw new OutputRefused('No folder was chosen. Nothing was written: choose one, or hand over a ZIP.');
      const files = sink.folder
        ? await folderOfPictures(sink.folder, job.names, job.wasBegun)
        : await zipOfPictures(`${job.baseName}.zip`, sink.owner);
      const own = await helpersOfJob();
      const comparing = pictureComparing(options, job.ground);
      const taking = {
        take: (picture: RenderedPicture) => takeOwnPicture(kind, options, picture, comparing, own.roomFor(picture.size)),
        asked: { kind, options, size: plan.size, comparing },
      };
      return writePictures(plan, files, taking, own, kind, job);
    },
    readBack: async (source, stop) => {
      const { readPictures } = await reading();
      return readPictures(source, stop, await helpersOfJob());
    },
  };
  return format;
}

export const png = pictureFormat('png');
export const jpeg = pictureFormat('jpeg');
export const webp = pictureFormat('webp');
export const tiff = pictureFormat('tiff');
export const tga = pictureFormat('tga');
export const bmp = pictureFormat('bmp');
