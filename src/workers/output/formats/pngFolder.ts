import { fileNamesOf, refuseByCarries } from '@/core/output/format';
import { type OutputFormat, OutputRefused } from '@/workers/output/outputFormat';

/** A PNG picture a frame, 8 bits a channel, numbered, in a folder the person chose. */
export const pngFolder: OutputFormat = {
  id: 'png-folder',
  name: 'Into a folder',
  group: 'png',
  files: { kind: 'numbered', extension: 'png', within: 'folder' },
  carries: { rates: 'none', sizes: 'any', transparency: true, sound: false, colours: 'exact' },
  refuse: (plan) => refuseByCarries(pngFolder, plan),
  write: async (plan, sink, job) => {
    if (!sink.folder) throw new OutputRefused('No folder was chosen. Nothing was written: choose one, or hand over a ZIP.');
    const { folderOfPictures } = await import('@/workers/output/pictures/pictureFiles');
    const { writePictures } = await import('@/workers/output/pictures/writePictures');
    const { packPng } = await import('@/workers/output/pictures/packPng');
    const { pictures } = fileNamesOf(pngFolder, job.baseName, plan.firstNumber, plan.frames);
    return writePictures(plan, pictures, await folderOfPictures(sink.folder, pictures), packPng, job);
  },
  readBack: async (source, stop) => {
    const { readPngs } = await import('@/workers/output/pictures/readPngs');
    return readPngs(source, stop);
  },
};
