import { createHash } from 'node:crypto';
import sharp from 'sharp';
import { chartPlaces } from '@/core/chart/shapes';
import {
  type Digest,
  type Drawing,
  type Level,
  newGap,
  type Project,
  type ReelItem,
  type Shot,
  type Size,
  wholeShot,
} from '@/core/document/model';
import { newProject } from '@/core/document/newProject';
import { FIRST_PALETTE } from '@/core/document/palette';
import { newSound, type Sound } from '@/core/document/sound';
import type { TimingChart } from '@/core/document/timingChart';
import { mustBeDone } from '@/core/outcome';
import { canonicalisePixels } from '@/core/raster/canonical';
import { digestOfPixels } from '@/core/raster/digest';
import { runsFromNotation } from '@/core/sheet/notation';
import { tidyRuns } from '@/core/sheet/runs';
import type { FilmPlan, ItemPlan, LevelPlan, ShotPlan } from '@/demo/film';
import type { Pen } from '@/demo/pen';
import { recorded, SAMPLE_RATE, type SoundPlan } from '@/demo/sounds';

const SIZE: Size = { width: 1280, height: 720 };

/** A made picture: its digest and PNG. */
export type MadePicture = { readonly digest: Digest; readonly size: Size; readonly png: Uint8Array };

/** A made recording or clip: the SHA-256 of its file, and the file. */
export type MadeOriginal = { readonly digest: string; readonly file: Uint8Array };

/** A demo film as a document with the pictures it names. */
export type MadeFilm = {
  readonly project: Project;
  readonly pictures: readonly MadePicture[];
  readonly originals: readonly MadeOriginal[];
};

async function pictureOf(pen: Pen): Promise<MadePicture> {
  const { data, info } = await sharp(Buffer.from(pen.svg())).ensureAlpha().raw().toBuffer({ resolveWithObject: true });
  if (info.width !== SIZE.width || info.height !== SIZE.height) throw new Error(`A demo drawing came out ${info.width} × ${info.height}.`);
  canonicalisePixels(data);
  const png = await sharp(data, { raw: { width: SIZE.width, height: SIZE.height, channels: 4 } })
    .png({ compressionLevel: 6 })
    .toBuffer();
  return { digest: await digestOfPixels(SIZE.width, SIZE.height, data), size: SIZE, png };
}

async function makeLevel(plan: LevelPlan, newId: () => string, keep: (picture: MadePicture) => void): Promise<Level> {
  const drawings: Drawing[] = [];
  for (const number of plan.numbers) {
    const role = plan.keys?.includes(number) ? 'key' : plan.breakdowns?.includes(number) ? 'breakdown' : 'inbetween';
    const picture = plan.undrawn?.includes(number) ? null : await pictureOf(plan.draw(number));
    if (picture) keep(picture);
    drawings.push({ id: newId(), number, role, picture: picture?.digest ?? null });
  }
  const { name, kind, opacityPercent = 100 } = plan;
  const exposures = tidyRuns(mustBeDone(runsFromNotation(plan.exposures, { name, drawings })));
  const idOf = (number: string) => drawings.find((drawing) => drawing.number === number)?.id ?? '';
  const charts = (plan.charts ?? []).map(
    ({ from, to, shape, between, path }): TimingChart => ({
      id: newId(),
      fromDrawing: idOf(from),
      toDrawing: idOf(to),
      shape,
      ticks: chartPlaces(shape, between.length).map((place, index) => ({ place, drawing: idOf(between[index] ?? '') })),
      path,
    }),
  );
  return {
    id: newId(),
    name,
    kind,
    visible: true,
    locked: false,
    opacityPercent,
    blend: 'normal',
    drawings,
    exposures,
    charts,
    media: null,
  };
}

function makeSound(plan: SoundPlan, newId: () => string, keep: (recording: MadeOriginal) => void): Sound {
  const { file, samples } = recorded(plan);
  const digest = createHash('sha256').update(file).digest('hex');
  keep({ digest, file });
  const recording = { original: digest, fileName: plan.fileName, sampleRate: SAMPLE_RATE, samples, channels: 1 };
  return newSound(newId(), plan.name, recording, plan.startFrame);
}

type Keep = { readonly picture: (picture: MadePicture) => void; readonly original: (original: MadeOriginal) => void };

async function makeShot(plan: ShotPlan, newId: () => string, keep: Keep): Promise<Shot> {
  const levels: Level[] = [];
  for (const level of plan.levels) levels.push(await makeLevel(level, newId, keep.picture));
  const sounds = plan.sounds.map((sound) => makeSound(sound, newId, keep.original));
  return { id: newId(), code: plan.code, name: plan.name, note: plan.note, frames: plan.frames, levels, notes: plan.notes, sounds };
}

/** An item of the reel; one that shows the whole of a shot has the shot's id. Throws for a code there is no shot of. */
function makeItem(plan: ItemPlan, shots: readonly Shot[], newId: () => string, keep: Keep): ReelItem {
  if ('gapFrames' in plan) return newGap(newId(), plan.gapFrames);
  if ('clip' in plan) {
    const { file, ...facts } = plan.clip;
    const original = createHash('sha256').update(file).digest('hex');
    keep.original({ digest: original, file });
    return { id: newId(), kind: 'clip', finished: true, clip: { ...facts, original, startMicroseconds: 0 }, way: plan.way, trim: null };
  }
  const shot = shots.find(({ code }) => code === plan.code);
  if (!shot) throw new Error(`The demo has no shot ${plan.code}.`);
  return { ...wholeShot(shot.id), trim: plan.trim ?? null };
}

/** Draws a film. Takes some seconds; the same plan always gives the same pictures. */
export async function makeFilm(plan: FilmPlan, projectId: string, newId: () => string): Promise<MadeFilm> {
  const pictures = new Map<Digest, MadePicture>();
  const originals: MadeOriginal[] = [];
  const keep: Keep = { picture: (made) => pictures.set(made.digest, made), original: (made) => originals.push(made) };
  const shots: Shot[] = [];
  for (const shot of plan.shots) shots.push(await makeShot(shot, newId, keep));
  const reel = plan.reel && {
    items: plan.reel.items.map((item) => makeItem(item, shots, newId, keep)),
    sounds: plan.reel.sounds.map((sound) => makeSound(sound, newId, keep.original)),
  };
  const project = newProject({
    id: projectId,
    title: plan.title,
    rate: { num: plan.framesPerSecond, den: 1 },
    size: SIZE,
    firstFrameNumber: 1,
    palette: FIRST_PALETTE,
    finish: plan.finish ?? [],
    shots,
  });
  return { project: reel ? { ...project, reel } : project, pictures: [...pictures.values()], originals };
}
