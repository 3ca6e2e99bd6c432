import type { Finding } from '@/core/check/finding';
import type { Project } from '@/core/document/model';
import { framesOfReel } from '@/core/reel/reel';
import { plural } from '@/core/time/counts';
import { type Rate, rateFraction, sameRate } from '@/core/time/rate';

/** What the last handover of the whole reel said when it left. */
export type LastHandover = {
  readonly fileName: string;
  readonly frames: number;
  readonly rate: Rate;
  readonly agrees: boolean;
  readonly planDigest: string;
  readonly fileBytes: number;
  /** Whether paper lies under its pictures; without, they keep their transparency. */
  readonly hasGround: boolean;
};

/** The last handover of the whole reel against the reel of today: frames, rate and pictures. `planDigestNow` is that of the same request made now. */
export function lastHandover(project: Project, handedOver: LastHandover | null, planDigestNow: string | null): readonly Finding[] {
  if (!handedOver) return [];
  const frames = framesOfReel(project);
  const finding = (sentence: string): readonly Finding[] => [
    { id: 'last-handover', kind: 'last-handover', group: 'counts', breaks: 'assemble-handover', sentence, place: null, fixes: [] },
  ];
  if (handedOver.frames !== frames) {
    return finding(
      `The last handover, ${handedOver.fileName}, has ${plural(handedOver.frames, 'frame')}; the reel has ${frames} now: hand it over again.`,
    );
  }
  if (!sameRate(handedOver.rate, project.rate)) {
    return finding(
      `The last handover, ${handedOver.fileName}, runs at ${rateFraction(handedOver.rate)}; the project at ${rateFraction(project.rate)}: hand it over again.`,
    );
  }
  if (!handedOver.agrees)
    return finding(`The last handover, ${handedOver.fileName}, did not agree with what was asked: its receipt says where.`);
  if (planDigestNow !== null && planDigestNow !== handedOver.planDigest) {
    return finding(`Drawings or timing have changed since the last handover, ${handedOver.fileName}: hand it over again.`);
  }
  return [];
}
