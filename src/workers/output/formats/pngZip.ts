import { fileNamesOf, refuseByCarries } from '@/core/output/format';
import type { OutputFormat } from '@/workers/output/outputFormat';

/** A PNG picture a frame, 8 bits a channel, numbered, in one ZIP. */
export const pngZip: OutputFormat = {
  id: 'png-zip',
  name: 'In one ZIP',
  group: 'png',
  files: { kind: 'numbered', extension: 'png', within: 'zip' },
  carries: { rates: 'none', sizes: 'any', transparency: true, sound: false, colours: 'exact' },
  refuse: (plan) => refuseByCarries(pngZip, plan),
  write: async (plan, sink, job) => {
    const { zipOfPictures } = await import('@/workers/output/pictures/pictureFiles');
    const { writePictures } = await import('@/workers/output/pictures/writePictures');
    const { packPng } = await import('@/workers/output/pictures/packPng');
    const { pictures } = fileNamesOf(pngZip, job.baseName, plan.firstNumber, plan.frames);
    return writePictures(plan, pictures, await zipOfPictures(`${job.baseName}.zip`, sink.owner), packPng, job);
  },
  readBack: async (source, stop) => {
    const { readPngs } = await import('@/workers/output/pictures/readPngs');
    return readPngs(source, stop);
  },
};
