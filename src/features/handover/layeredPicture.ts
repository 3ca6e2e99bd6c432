import type { Digest, Level, Project, Shot } from '@/core/document/model';
import { done, type Outcome, refused } from '@/core/outcome';
import { fileNamePart } from '@/core/output/sequenceNames';
import { layersAt } from '@/core/render/shotRuns';
import { type StackLayer, stackOf } from '@/core/render/stacks';
import { drawingShownAt } from '@/core/sheet/reading';
import { plural } from '@/core/time/counts';
import type { TimingFile } from '@/features/handover/timingFiles';
import { compositePreview, type LayerPng, layeredFile, loadPicturePng } from '@/workers/client';

/* A frame with a layer for each level, or a level with a layer for each drawing, as a layered picture. */

/** The longer side of the small picture that goes with a layered one, in pixels. */
const THUMBNAIL_PX = 256;

const pngOf = async (picture: Digest): Promise<Uint8Array> => new Uint8Array(await (await loadPicturePng(picture)).file.arrayBuffer());

/** What layers come to, as PNGs of the picture's size and of a small one. */
async function mergedOf({ size }: Project, layers: readonly StackLayer[]): Promise<{ merged: Uint8Array; thumbnail: Uint8Array }> {
  const bitmap = await compositePreview({ ...size }, stackOf(layers, false), 'none', { shrink: 1, finish: [], ahead: false });
  const scaled = async (most: number): Promise<Uint8Array> => {
    const scale = Math.min(1, most / Math.max(size.width, size.height));
    const canvas = new OffscreenCanvas(Math.max(1, Math.round(size.width * scale)), Math.max(1, Math.round(size.height * scale)));
    canvas.getContext('2d')?.drawImage(bitmap, 0, 0, canvas.width, canvas.height);
    return new Uint8Array(await (await canvas.convertToBlob({ type: 'image/png' })).arrayBuffer());
  };
  try {
    return { merged: await scaled(Number.POSITIVE_INFINITY), thumbnail: await scaled(THUMBNAIL_PX) };
  } finally {
    bitmap.close();
  }
}

async function layered(
  project: Project,
  name: string,
  layers: readonly LayerPng[],
  seen: readonly StackLayer[],
): Promise<Outcome<TimingFile>> {
  const { merged, thumbnail } = await mergedOf(project, seen);
  const content = await layeredFile(project.size, layers, merged, thumbnail);
  return done({ name: `${name}.ora`, content, found: `${plural(layers.length, 'layer')}.` });
}

/** A frame of a shot: a layer for each level that shows a drawing, but guides; hidden ones hidden. */
export async function frameInLayers(project: Project, shot: Shot, frame: number): Promise<Outcome<TimingFile>> {
  const shown = shot.levels.flatMap((level) => {
    const picture = level.kind === 'guide' ? null : drawingShownAt(level, frame)?.picture;
    return picture ? [{ level, picture }] : [];
  });
  if (shown.length === 0) return refused('Nothing is drawn on this frame: there is no layer to hand over.');
  const layers = await Promise.all(
    shown.map(
      async ({ level: { name, opacityPercent, blend, visible }, picture }): Promise<LayerPng> => ({
        ...{ name, opacityPercent, blend, visible },
        png: await pngOf(picture),
      }),
    ),
  );
  const seen = layersAt(
    shot.levels.filter(({ kind, visible }) => visible && kind !== 'guide'),
    frame,
  );
  const name = `${fileNamePart(project.title)}_${fileNamePart(shot.code)}_${frame + project.firstFrameNumber}`;
  return layered(project, name, layers, seen);
}

/** A level: a layer for each drawing in the order of their list, the first of them seen. */
export async function levelInLayers(project: Project, shot: Shot, level: Level): Promise<Outcome<TimingFile>> {
  const drawn = level.drawings.flatMap(({ number, picture }) => (picture ? [{ number, picture }] : []));
  const [first] = drawn;
  if (!first) return refused(`No drawing of ${level.name} is drawn yet: there is no layer to hand over.`);
  const layers: LayerPng[] = [];
  for (const { number, picture } of drawn)
    layers.push({ name: number, png: await pngOf(picture), opacityPercent: 100, blend: 'normal', visible: picture === first.picture });
  const name = [project.title, shot.code, level.name].map(fileNamePart).join('_');
  return layered(project, name, layers, [{ picture: first.picture, opacityPercent: 100 }]);
}
