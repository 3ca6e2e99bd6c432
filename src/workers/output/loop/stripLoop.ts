import { Uint8ArrayReader, Uint8ArrayWriter, ZipWriter } from '@zip.js/zip.js';
import { pngRows, writePng } from '@/core/format/png/writePng';
import { stripJson } from '@/core/format/strip/stripList';
import { type LoopOptions, microsecondsIn, stripGrid } from '@/core/output/loop';
import type { RenderPlan } from '@/core/render/renderPlan';
import type { LoopFile } from '@/workers/output/loop/loopFile';
import { onceEach } from '@/workers/output/loop/onceEach';
import type { OutputJob } from '@/workers/output/outputFormat';

/** Packs rows of a picture as they come, with the browser's own zlib. */
class RowPacker {
  private readonly stream = new CompressionStream('deflate');
  private readonly writer = this.stream.writable.getWriter();
  private readonly packed = new Response(this.stream.readable).arrayBuffer();

  add(rows: Uint8Array): Promise<void> {
    return this.writer.write(rows as Uint8Array<ArrayBuffer>);
  }

  async finish(): Promise<Uint8Array> {
    await this.writer.close();
    return new Uint8Array(await this.packed);
  }
}

/** Writes a plan as one PNG of every distinct picture, in rows, and a list; only one row of them is in memory at a time. */
export async function writeStripLoop(plan: RenderPlan, options: LoopOptions, job: OutputJob, file: LoopFile): Promise<void> {
  const { width, height } = plan.size;
  const distinct = new Set(plan.runs.map(({ stack }) => stack)).size;
  const grid = stripGrid(plan.size, distinct);
  if (!grid) throw new Error('A strip of that many pictures was refused before.');
  const strip = { width: grid.columns * width, height: grid.rows * height };
  const packer = new RowPacker();
  let row = new Uint8Array(strip.width * height * 4);
  let taken = 0;
  const endRow = async () => {
    await packer.add(pngRows({ width: strip.width, height, channels: 4, depth: 8 }, row));
    row = new Uint8Array(row.length);
  };
  const places = await onceEach(
    plan,
    job,
    async (picture) => (await picture.rgbaPixels()).slice(),
    async (pixels) => {
      const column = taken % grid.columns;
      for (let line = 0; line < height; line++)
        row.set(pixels.subarray(line * width * 4, (line + 1) * width * 4), (line * strip.width + column * width) * 4);
      taken++;
      if (taken % grid.columns === 0 || taken === distinct) await endRow();
    },
  );
  const png = writePng({ ...strip, channels: 4, depth: 8 }, await packer.finish());
  const microseconds = microsecondsIn('strip', plan, options);
  const image = `${job.baseName}.png`;
  const json = stripJson({
    ...{ image, width: strip.width, height: strip.height, plays: options.plays },
    pictures: Array.from({ length: distinct }, (_, picture) => ({
      x: (picture % grid.columns) * width,
      y: Math.floor(picture / grid.columns) * height,
      width,
      height,
    })),
    shown: places.map((picture, index) => ({ picture, microseconds: microseconds[index] as number })),
  });
  const zip = new ZipWriter(new Uint8ArrayWriter(), { level: 0, useWebWorkers: false });
  await zip.add(image, new Uint8ArrayReader(png));
  await zip.add(`${job.baseName}.json`, new Uint8ArrayReader(new TextEncoder().encode(json)));
  file.add(await zip.close());
}
