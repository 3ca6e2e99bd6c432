import { randomUUID } from 'node:crypto';
import sharp from 'sharp';
import { makeProject, pictureFile, pictureSvg, projectOnServer } from '../e2e/projects';
import type { Step } from '../src/core/edit/step';

type Picture = Awaited<ReturnType<typeof pictureFile>>;

const SIZE = { width: 160, height: 90 };
const FEW = 24;

/** How a sending ended: acknowledged, refused with a sentence (empty where there was none), of a server that failed at it or not, or with no answer at all. */
export type Sent =
  | { readonly kind: 'accepted' }
  | { readonly kind: 'refused'; readonly sentence: string; readonly hasFailed: boolean }
  | { readonly kind: 'unanswered' };

/** Somebody who adds drawings with their pictures to a project, one after another, and knows which were acknowledged. */
export class Maker {
  readonly acknowledged: { readonly drawing: string; readonly digest: string }[] = [];
  private revision = 0;
  private made = 0;

  private constructor(
    readonly projectId: string,
    private readonly on: { readonly shotId: string; readonly levelId: string },
    private readonly nextPicture: (number: number) => Promise<Picture>,
  ) {}

  /** With a project of its own on a server; its pictures are small and come again, or each another of so many pixels of noise. */
  static async on(url: string, noise?: { readonly width: number; readonly height: number }): Promise<Maker> {
    const projectId = await makeProject(
      url,
      { title: 'Made', rate: { num: 24, den: 1 }, size: noise ?? SIZE, frames: 24 },
      { drawings: 1, hold: 1 },
    );
    const [shot] = (await projectOnServer(url, projectId)).shots;
    const on = { shotId: shot?.id ?? '', levelId: shot?.levels[0]?.id ?? '' };
    const few = await Promise.all(Array.from({ length: FEW }, (_, index) => pictureFile(pictureSvg(index, 0, SIZE), SIZE)));
    const next = async (number: number): Promise<Picture> => (noise ? noisePicture(number, noise) : (few[number % FEW] as Picture));
    const maker = new Maker(projectId, on, next);
    await maker.catchUp(url);
    return maker;
  }

  /** Takes over the revision a server has: one more may have been accepted without its answer coming back. */
  async catchUp(url: string): Promise<void> {
    const answer = (await (await fetch(`${url}/api/projects/${this.projectId}`)).json()) as { revision: number };
    this.revision = answer.revision;
  }

  async send(url: string): Promise<Sent> {
    const number = this.made++;
    const picture = await this.nextPicture(number);
    const drawing = { id: `d${number}`, number: String(number + 2), role: 'inbetween' as const, picture: picture.digest };
    const steps: Step[] = [{ type: 'addDrawing', ...this.on, drawing, index: 0 }];
    const form = new FormData();
    form.set('sending', JSON.stringify({ baseRevision: this.revision, batchId: randomUUID(), steps }));
    form.set(`picture-${picture.digest}`, new Blob([new Uint8Array(picture.png)]), 'p.png');
    try {
      const answer = await fetch(`${url}/api/projects/${this.projectId}/steps`, {
        method: 'POST',
        body: form,
        signal: AbortSignal.timeout(60_000),
      });
      const said = (await answer.json().catch(() => ({}))) as { revision?: number; error?: string };
      if (answer.ok && said.revision !== undefined) {
        this.revision = said.revision;
        this.acknowledged.push({ drawing: drawing.id, digest: picture.digest });
        return { kind: 'accepted' };
      }
      // Somebody's answer was lost, and what was sent then was accepted.
      if (answer.status === 409) {
        await this.catchUp(url);
        return { kind: 'refused', sentence: 'Others were faster.', hasFailed: false };
      }
      return { kind: 'refused', sentence: said.error ?? '', hasFailed: answer.status === 500 };
    } catch {
      return { kind: 'unanswered' };
    }
  }

  /** How many acknowledged steps and pictures are not on a server. */
  async lostOn(url: string): Promise<{ readonly steps: number; readonly pictures: number }> {
    const drawings = (await projectOnServer(url, this.projectId)).shots.flatMap(({ levels }) => levels.flatMap((level) => level.drawings));
    const there = new Set(drawings.map(({ id }) => id));
    const steps = this.acknowledged.filter(({ drawing }) => !there.has(drawing)).length;
    let pictures = 0;
    for (const digest of new Set(this.acknowledged.map((each) => each.digest))) {
      const answer = await fetch(`${url}/api/pictures?digests=${digest}`);
      if (new DataView(await answer.arrayBuffer()).getUint32(0) === 0) pictures++;
    }
    return { steps, pictures };
  }
}

/** A picture of noise, which packs to about as many bytes as it has channels. */
async function noisePicture(number: number, { width, height }: { readonly width: number; readonly height: number }): Promise<Picture> {
  let seed = number + 1;
  const rgb = new Uint8Array(width * height * 3);
  for (let at = 0; at < rgb.length; at++) {
    seed = (Math.imul(seed, 1_664_525) + 1_013_904_223) >>> 0;
    rgb[at] = seed >>> 24;
  }
  const png = await sharp(rgb, { raw: { width, height, channels: 3 } })
    .png({ compressionLevel: 1 })
    .toBuffer();
  return pictureFile(png, { width, height });
}
