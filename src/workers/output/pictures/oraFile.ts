import { BlobWriter, Uint8ArrayReader, ZipWriter } from '@zip.js/zip.js';
import type { Size } from '@/core/document/model';
import { type OraLayer, stackXml } from '@/core/format/ora/stackXml';

/** A layer with its PNG, of the picture's size. */
export type LayerPng = Omit<OraLayer, 'source'> & { readonly png: Uint8Array };

/** A layered picture as OpenRaster: its kind first and as it is, its layers from the lowest up, and what they come to. */
export async function oraFile(size: Size, layers: readonly LayerPng[], merged: Uint8Array, thumbnail: Uint8Array): Promise<Blob> {
  const zip = new ZipWriter(new BlobWriter('image/openraster'), { useWebWorkers: false, level: 0 });
  const text = (value: string) => new Uint8ArrayReader(new TextEncoder().encode(value));
  const sourceOf = (index: number) => `data/layer${String(index + 1).padStart(3, '0')}.png`;
  await zip.add('mimetype', text('image/openraster'), { extendedTimestamp: false });
  const named = layers.map(({ png: _png, ...layer }, index) => ({ ...layer, source: sourceOf(index) }));
  await zip.add('stack.xml', text(stackXml(size, named)), { level: 6 });
  for (const [index, { png }] of layers.entries()) await zip.add(sourceOf(index), new Uint8ArrayReader(png));
  await zip.add('mergedimage.png', new Uint8ArrayReader(merged));
  await zip.add('Thumbnails/thumbnail.png', new Uint8ArrayReader(thumbnail));
  return zip.close();
}
