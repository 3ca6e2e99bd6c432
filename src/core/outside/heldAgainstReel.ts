import type { Project } from '@/core/document/model';
import type { HeldAgainst } from '@/core/outside/agreementWords';
import { soundsOfReel } from '@/core/reel/sounds';
import type { RenderPlan } from '@/core/render/renderPlan';

/** What is known of a project's reel that files are held against. `plan` is that of the whole reel. */
export function heldAgainstReel(project: Project, { frames, rate, size }: RenderPlan, name: string): HeldAgainst {
  const soundMicroseconds = soundsOfReel(project).length > 0 ? (frames * rate.den * 1_000_000) / rate.num : null;
  return { name, frames, firstNumber: project.firstFrameNumber, rate, size, soundMicroseconds };
}
