import { BlobReader, type FileEntry, TextWriter, Uint8ArrayWriter, ZipReader } from '@zip.js/zip.js';
import { XMLParser } from 'fast-xml-parser';
import sharp from 'sharp';
import { z } from 'zod';
import type { Size } from '@/core/document/model';
import { checkSize, LARGEST_PICTURE_BYTES, MOST_PICTURE_PIXELS } from '@/core/document/size';
import { readPngSize } from '@/core/format/png/header';
import { done, type Outcome, refused } from '@/core/outcome';
import { checkPages, type DecodedFile, MOST_PAGES, type Page } from '@/server/service/bringIn/pages';

/*
 * OpenRaster, baseline 0.0.6 (freedesktop.org): a ZIP whose first entry `mimetype` says image/openraster, with
 * `stack.xml` naming the layers, the topmost first, each a PNG at an offset on the image's size. Layers of
 * nested stacks are taken in their order, each as opaque as it and the stacks around it say together. Every entry says how large it is unpacked, and that is held against
 * the limits before anything is unpacked; what is unpacked is counted again.
 */

const MOST_XML_BYTES = 4 * 1024 * 1024;

const layerSchema = z.object({
  '@_src': z.string().optional(),
  '@_name': z.string().optional(),
  '@_x': z.coerce.number().int().default(0),
  '@_y': z.coerce.number().int().default(0),
});
type LayerRow = z.infer<typeof layerSchema> & { readonly opacity: number };

const opacitySchema = z.object({ '@_opacity': z.coerce.number().min(0).max(1).catch(1).default(1) });

const imageSchema = z.object({ '@_w': z.coerce.number().int(), '@_h': z.coerce.number().int() });

/** The layers of a stack in the order they are written, as the order-keeping parser gives them. */
function layersOf(nodes: unknown, opacityAround = 1): LayerRow[] {
  if (!Array.isArray(nodes)) return [];
  return nodes.flatMap((node: Record<string, unknown>): LayerRow[] => {
    const opacity = opacityAround * opacitySchema.parse(node[':@'] ?? {})['@_opacity'];
    if (Array.isArray(node.stack)) return layersOf(node.stack, opacity);
    if (!('layer' in node)) return [];
    const row = layerSchema.safeParse(node[':@'] ?? {});
    return row.success ? [{ ...row.data, opacity }] : [];
  });
}

/** Unpacks one entry, and no more than it says it has. */
async function unpack(entry: FileEntry, mostBytes: number): Promise<Uint8Array | null> {
  if (entry.uncompressedSize > mostBytes) return null;
  const bytes = await entry.getData(new Uint8ArrayWriter());
  return bytes.byteLength <= mostBytes ? bytes : null;
}

/** Reads the layers of an OpenRaster picture, the lowest first, each laid on the image's size. */
export async function readOpenRaster(bytes: Uint8Array): Promise<Outcome<DecodedFile>> {
  const reader = new ZipReader(new BlobReader(new Blob([bytes as Uint8Array<ArrayBuffer>])));
  const entries = (await reader.getEntries()).filter((entry): entry is FileEntry => !entry.directory);
  const byName = new Map(entries.map((entry) => [entry.filename, entry]));
  const [mimetype, stack] = [byName.get('mimetype'), byName.get('stack.xml')];
  if (!mimetype || mimetype.uncompressedSize > 64 || (await mimetype.getData(new TextWriter())).trim() !== 'image/openraster')
    return refused('This ZIP is not a layered picture: it doesn’t say it is OpenRaster.');
  if (!stack || stack.uncompressedSize > MOST_XML_BYTES) return refused('This layered picture has no list of its layers (stack.xml).');
  const parsed: unknown = new XMLParser({ ignoreAttributes: false, preserveOrder: true, processEntities: false }).parse(
    await stack.getData(new TextWriter()),
  );
  const image = Array.isArray(parsed) ? (parsed as Record<string, unknown>[]).find((node) => 'image' in node) : undefined;
  const said = imageSchema.safeParse(image?.[':@']);
  const size = said.success ? checkSize(said.data['@_w'], said.data['@_h']) : refused('This layered picture doesn’t say how large it is.');
  if (!size.ok) return size;
  const rows = layersOf(image?.image).toReversed();
  if (rows.length === 0 || rows.length > MOST_PAGES)
    return refused(`This layered picture has ${rows.length} layers; 1 to ${MOST_PAGES} can be brought in.`);
  const layers: Layer[] = [];
  for (const row of rows) {
    const entry = row['@_src'] === undefined ? undefined : byName.get(row['@_src']);
    const name = row['@_name'] || `layer ${layers.length + 1}`;
    if (!entry || entry.uncompressedSize > LARGEST_PICTURE_BYTES)
      return refused(`The layer “${name}” has no picture, or one of over 64 MiB.`);
    layers.push({ name, row, entry });
  }
  const checked = checkPages(layers.map(() => size.value));
  if (!checked.ok) return checked;
  return done({ kind: 'OpenRaster', isLayered: true, count: layers.length, pages: pagesOf(reader, layers, size.value) });
}

type Layer = { readonly name: string; readonly row: LayerRow; readonly entry: FileEntry };

/** The layers one after another, each unpacked and decoded when it is asked for. Throws at one that is broken or too large. */
async function* pagesOf(reader: ZipReader<unknown>, layers: readonly Layer[], size: Size): AsyncGenerator<Page> {
  try {
    for (const { name, row, entry } of layers) {
      const png = await unpack(entry, LARGEST_PICTURE_BYTES);
      const said = png && readPngSize(png);
      if (!png || !said?.ok) throw new Error(`the layer “${name}” is not a PNG picture that can be read`);
      const image = sharp(png, { failOn: 'error', limitInputPixels: MOST_PICTURE_PIXELS }).ensureAlpha().raw({ depth: 'uchar' });
      const rgba = layAt(await image.toBuffer({ resolveWithObject: true }), row['@_x'], row['@_y'], size.width, size.height);
      if (row.opacity < 1)
        for (let index = 3; index < rgba.length; index += 4) rgba[index] = Math.round((rgba[index] as number) * row.opacity);
      yield { name, delayMilliseconds: null, png: null, size, rgba };
    }
  } finally {
    await reader.close();
  }
}

/** A layer's pixels on the image's size, cut where they lie outside. */
function layAt(
  layer: { data: Buffer; info: { width: number; height: number } },
  x: number,
  y: number,
  width: number,
  height: number,
): Uint8ClampedArray {
  const rgba = new Uint8ClampedArray(width * height * 4);
  const [from, to] = [Math.max(0, -x), Math.min(layer.info.width, width - x)];
  if (to <= from) return rgba;
  for (let row = Math.max(0, -y); row < Math.min(layer.info.height, height - y); row++) {
    const start = row * layer.info.width;
    rgba.set(layer.data.subarray((start + from) * 4, (start + to) * 4), ((row + y) * width + x + from) * 4);
  }
  return rgba;
}
