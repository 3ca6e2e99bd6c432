import { newSound } from '../src/core/document/sound';
import { writeWav } from '../src/core/format/wav/writeWav';
import type { Rate } from '../src/core/time/rate';
import { makeProject, projectOnServer, sendSteps } from './projects';

export const SAMPLE_RATE = 48_000;
const CLICK = [0.9, -0.9, 0.9, -0.9, 0.9, -0.9, 0.9, -0.9];

/** A project of some frames with a click heard at a sample after the beginning of a frame (from 0). */
export async function withClick(url: string, rate: Rate, frames: number, startFrame: number, atSample: number): Promise<string> {
  const projectId = await makeProject(
    url,
    { title: 'Click', rate, size: { width: 64, height: 36 }, frames },
    { drawings: Math.ceil(Math.min(frames, 24) / 2), hold: 2 },
  );
  const samples = atSample + 400;
  const channel = new Float32Array(samples);
  channel.set(CLICK, atSample);
  const body = new Uint8Array(writeWav([channel], SAMPLE_RATE, 'float32'));
  const kept = await fetch(`${url}/api/projects/${projectId}/recordings?name=click.wav`, { method: 'POST', body });
  const { original } = (await kept.json()) as { original: string };
  const recording = { original, fileName: 'click.wav', sampleRate: SAMPLE_RATE, samples, channels: 1 };
  const shotId = (await projectOnServer(url, projectId)).shots[0]?.id ?? '';
  await sendSteps(url, projectId, [{ type: 'addSound', shotId, sound: newSound('click', 'Click', recording, startFrame), index: 0 }]);
  return projectId;
}
