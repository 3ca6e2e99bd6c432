import type { Project } from '@/core/document/model';
import { LoudnessCurve } from '@/core/outside/soundShift';
import { MIX_RATE } from '@/core/reel/mix';
import { type ReelSound, soundsOfReel, soundsOverShot } from '@/core/reel/sounds';
import { drawingsAlone } from '@/core/render/drawingsAlone';
import { planOfReel, renderPlanOf } from '@/core/render/renderPlan';
import { mixFrames } from '@/features/clock/soundOut';
import type { PlanOrder } from '@/workers/client';

/** How many frames are mixed at once. */
const FRAMES_AT_ONCE = 240;

/** How loud a plan is along its length; null where nothing is heard. Rejects when the server is away. */
async function loudnessOf(
  sounds: readonly ReelSound[],
  frames: number,
  rate: Project['rate'],
  isStopped: () => boolean,
): Promise<Float32Array | null> {
  if (sounds.length === 0) return null;
  const curve = new LoudnessCurve(MIX_RATE);
  let startSample = 0;
  for (let from = 0; from < frames && !isStopped(); from += FRAMES_AT_ONCE) {
    const mixed = await mixFrames(sounds, from, Math.min(frames, from + FRAMES_AT_ONCE), rate);
    const channels = Array.from({ length: mixed.numberOfChannels }, (_, index) => mixed.getChannelData(index));
    curve.take(channels, startSample);
    startSample += mixed.length;
  }
  return curve.curve;
}

/** The reel, or one shot of it, as something files are held against; null where there is nothing to hold against. */
export async function planOrder(project: Project, shotId: string | null, isStopped: () => boolean): Promise<PlanOrder | null> {
  const shot = project.shots.find(({ id }) => id === shotId);
  const shotPlan = shot && renderPlanOf(project, { shotId: shot.id, fromFrame: 0, toFrame: shot.frames - 1, withBackground: true });
  const plan = shot ? (shotPlan?.ok ? shotPlan.value : null) : planOfReel(project);
  if (!plan) return null;
  const { frames, rate, size } = plan;
  const sounds = shot ? soundsOverShot(project, shot.id) : soundsOfReel(project);
  const loudness = await loudnessOf(sounds, frames, rate, isStopped);
  return {
    plan,
    drawingsAlone: drawingsAlone(project, shot?.id ?? null),
    held: {
      name: shot ? `shot ${shot.code}` : 'the reel',
      frames,
      firstNumber: project.firstFrameNumber,
      rate,
      size,
      soundMicroseconds: sounds.length > 0 ? (frames * rate.den * 1_000_000) / rate.num : null,
    },
    loudness,
    packed: null,
  };
}
