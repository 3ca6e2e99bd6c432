import sharp from 'sharp';
import { type Drawing, type Exposure, newLevel, type Project } from '../src/core/document/model';
import type { Step } from '../src/core/edit/step';
import { canonicalisePixels } from '../src/core/raster/canonical';
import { digestOfPixels } from '../src/core/raster/digest';

type Film = {
  readonly title: string;
  readonly rate: { num: number; den: number };
  readonly size: { width: number; height: number };
  readonly frames: number;
};

/** How a film of pictures is exposed: `drawings` distinct pictures, each standing `hold` frames, round and round until the end. */
export type Exposing = { readonly drawings: number; readonly hold: number; readonly levels?: number };

/** A picture with a figure at a place of its own, over nothing, as an SVG. */
export function pictureSvg(index: number, level: number, { width, height }: Film['size']): string {
  const x = ((index * 137 + level * 311) % 1000) / 1000;
  const y = ((index * 71 + level * 173) % 1000) / 1000;
  const unit = Math.min(width, height);
  return `<svg xmlns="http://www.w3.org/2000/svg" width="${width}" height="${height}">
    <circle cx="${(0.15 + 0.7 * x) * width}" cy="${(0.2 + 0.6 * y) * height}" r="${unit * 0.12}" fill="hsl(${(index * 47) % 360} 60% 55%)" stroke="#1d2a23" stroke-width="${unit * 0.012}"/>
    <path d="M${0.1 * width} ${(0.3 + 0.5 * y) * height} Q${x * width} ${y * height} ${0.9 * width} ${(0.7 - 0.4 * y) * height}" fill="none" stroke="#1d2a23" stroke-width="${unit * 0.01}"/></svg>`;
}

/** A picture as it is sent to the store: its digest and its file. */
export type PictureFile = { readonly digest: string; readonly png: Buffer };

/** A picture drawn by an image library. */
export async function pictureFile(svg: string | Buffer, { width, height }: Film['size']): Promise<PictureFile> {
  const { data } = await sharp(typeof svg === 'string' ? Buffer.from(svg) : svg)
    .ensureAlpha()
    .raw()
    .toBuffer({ resolveWithObject: true });
  canonicalisePixels(data);
  const png = await sharp(data, { raw: { width, height, channels: 4 } })
    .png({ compressionLevel: 2 })
    .toBuffer();
  return { digest: await digestOfPixels(width, height, data), png };
}

const picture = (index: number, level: number, size: Film['size']) => pictureFile(pictureSvg(index, level, size), size);

async function post(url: string, body: BodyInit, type?: string): Promise<{ id: string; revision: number }> {
  const response = await fetch(url, { method: 'POST', body, headers: type ? { 'Content-Type': type } : {} });
  if (!response.ok) throw new Error(`${url} answered ${response.status}: ${await response.text()}`);
  return (await response.json()) as { id: string; revision: number };
}

/** Sends steps with their pictures to a project that nobody else changes meanwhile. */
export async function sendSteps(url: string, id: string, steps: readonly Step[], pictures: readonly PictureFile[] = []): Promise<void> {
  const { revision } = (await (await fetch(`${url}/api/projects/${id}`)).json()) as { revision: number };
  const form = new FormData();
  form.set('sending', JSON.stringify({ baseRevision: revision, batchId: crypto.randomUUID(), steps }));
  for (const each of pictures) form.set(`picture-${each.digest}`, new Blob([new Uint8Array(each.png)]), 'p.png');
  await post(`${url}/api/projects/${id}/steps`, form);
}

/** Makes a project of one shot over HTTP, with drawn pictures exposed to fill it; its id. */
export async function makeProject(url: string, film: Film, exposing: Exposing): Promise<string> {
  const { id } = await post(`${url}/api/projects`, JSON.stringify({ ...film, firstFrameNumber: 1 }), 'application/json');
  const shot = (await projectOnServer(url, id)).shots[0];
  const first = shot?.levels[0];
  if (!shot || !first) throw new Error('A new project has a shot with a level.');
  let revision = 0;
  const send = async (steps: Step[], pictures: { digest: string; png: Buffer }[] = []) => {
    const form = new FormData();
    form.set('sending', JSON.stringify({ baseRevision: revision, batchId: crypto.randomUUID(), steps }));
    for (const each of pictures) form.set(`picture-${each.digest}`, new Blob([new Uint8Array(each.png)]), 'p.png');
    revision = (await post(`${url}/api/projects/${id}/steps`, form)).revision;
  };
  for (let level = 0; level < (exposing.levels ?? 1); level++) {
    const levelId = level === 0 ? first.id : `level${level}`;
    if (level > 0) {
      await send([
        {
          type: 'addLevel',
          shotId: shot.id,
          index: level,
          level: newLevel(levelId, `Level ${level + 1}`),
        },
      ]);
    }
    for (let start = 0; start < exposing.drawings; start += 40) {
      const indices = Array.from({ length: Math.min(40, exposing.drawings - start) }, (_, offset) => start + offset);
      const pictures = await Promise.all(indices.map((index) => picture(index, level, film.size)));
      const steps = indices.map((index, place): Step => {
        const drawing: Drawing = {
          id: `d${level}-${index}`,
          number: String(index + 1),
          role: 'inbetween',
          picture: pictures[place]?.digest ?? null,
        };
        return { type: 'addDrawing', shotId: shot.id, levelId, drawing, index };
      });
      await send(steps, pictures);
    }
    const runs: Exposure[] = [];
    for (let frame = 0; frame < film.frames; frame += exposing.hold) {
      runs.push({
        drawing: `d${level}-${(frame / exposing.hold) % exposing.drawings}`,
        frames: Math.min(exposing.hold, film.frames - frame),
      });
    }
    await send([{ type: 'replaceRuns', shotId: shot.id, levelId, startFrame: 0, removedFrames: 0, runs }]);
  }
  return id;
}

/** Makes a project of one long shot over HTTP: levels of planned drawings, twelve a level, round and round on twos; its id. */
export async function makeLargeShot(url: string, { levels, frames }: { levels: number; frames: number }): Promise<string> {
  const film = { title: 'Large', rate: { num: 24, den: 1 }, size: { width: 1280, height: 720 }, frames };
  const { id } = await post(`${url}/api/projects`, JSON.stringify({ ...film, firstFrameNumber: 1 }), 'application/json');
  const opened = (await (await fetch(`${url}/api/projects/${id}`)).json()) as { project: Project };
  const shotId = opened.project.shots[0]?.id ?? '';
  for (let place = 0; place < levels; place++) {
    const drawings = Array.from(
      { length: 12 },
      (_, index): Drawing => ({
        id: `${place}-${index}`,
        number: String(index + 1),
        role: index % 6 === 0 ? 'key' : 'inbetween',
        picture: null,
      }),
    );
    const exposures = Array.from(
      { length: frames / 2 },
      (_, index): Exposure => ({ drawing: `${place}-${(index + place) % 12}`, frames: 2 }),
    );
    const step: Step = {
      type: 'addLevel',
      shotId,
      index: place + 1,
      level: { ...newLevel(`level${place}`, `Level ${place + 2}`), drawings, exposures },
    };
    const form = new FormData();
    form.set('sending', JSON.stringify({ baseRevision: place, batchId: crypto.randomUUID(), steps: [step] }));
    await post(`${url}/api/projects/${id}/steps`, form);
  }
  return id;
}

/** A new project with one empty level; its id. */
export async function emptyProject(url: string, film: Film): Promise<string> {
  const { id } = await post(`${url}/api/projects`, JSON.stringify({ ...film, firstFrameNumber: 1 }), 'application/json');
  return id;
}

/** A project's document as the server has it. */
export async function projectOnServer(url: string, projectId: string): Promise<Project> {
  const opened = (await (await fetch(`${url}/api/projects/${projectId}`)).json()) as { project: Project };
  return opened.project;
}
