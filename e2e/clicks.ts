import { newSound } from '../src/core/document/sound';
import { writeWav } from '../src/core/format/wav/writeWav';
import type { Rate } from '../src/core/time/rate';
import { makeProject, projectOnServer, sendSteps } from './projects';

export const SAMPLE_RATE = 48_000;
const CLICK = [0.9, -0.9, 0.9, -0.9, 0.9, -0.9, 0.9, -0.9];

/** A recording of 96,000 samples a second would lose the shortest click when it is brought to 48,000: there it is one pulse. */
const PULSE = Array.from({ length: 64 }, () => 0.9);

/** What a recording is like: its rate, and how long it goes on after the click. */
export type Recorded = { readonly sampleRate: 48_000 | 96_000; readonly samplesAfter: number };
const PLAIN: Recorded = { sampleRate: SAMPLE_RATE, samplesAfter: 400 };

/** A project of some frames with a click heard at a sample (of 48,000 a second) after the beginning of a frame (from 0). */
export async function withClick(
  url: string,
  rate: Rate,
  frames: number,
  startFrame: number,
  atSample: number,
  { sampleRate, samplesAfter }: Recorded = PLAIN,
): Promise<string> {
  const projectId = await makeProject(
    url,
    { title: 'Click', rate, size: { width: 64, height: 36 }, frames },
    { drawings: Math.ceil(Math.min(frames, 24) / 2), hold: 2 },
  );
  const clickAt = (atSample * sampleRate) / SAMPLE_RATE;
  const samples = clickAt + samplesAfter;
  const channel = new Float32Array(samples);
  channel.set(sampleRate === SAMPLE_RATE ? CLICK : PULSE, clickAt);
  const body = new Uint8Array(writeWav([channel], sampleRate, 'float32'));
  const kept = await fetch(`${url}/api/projects/${projectId}/recordings?name=click.wav`, { method: 'POST', body });
  const { original } = (await kept.json()) as { original: string };
  const recording = { original, fileName: 'click.wav', sampleRate, samples, channels: 1 };
  const shotId = (await projectOnServer(url, projectId)).shots[0]?.id ?? '';
  await sendSteps(url, projectId, [{ type: 'addSound', shotId, sound: newSound('click', 'Click', recording, startFrame), index: 0 }]);
  return projectId;
}
