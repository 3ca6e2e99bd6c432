import { emptyTail } from '@/core/check/emptyTail';
import type { Finding, FindingGroup, LevelRule, PathLink } from '@/core/check/finding';
import { type HandedOver, lastHandover } from '@/core/check/lastHandover';
import { levelPastEnd } from '@/core/check/levelPastEnd';
import { neverExposed } from '@/core/check/neverExposed';
import { oneFrameGap } from '@/core/check/oneFrameGap';
import { plannedEmpty } from '@/core/check/plannedEmpty';
import { samePicture } from '@/core/check/samePicture';
import { strayOne } from '@/core/check/strayOne';
import type { Project, Shot } from '@/core/sheet/document';
import { workOfProject } from '@/core/sheet/work';

const LEVEL_RULES: readonly LevelRule[] = [levelPastEnd, neverExposed, samePicture, oneFrameGap, strayOne, plannedEmpty];

/** Findings of a shot, kept with the very shot they were found in: an edit elsewhere looks at nothing again. */
const found = new WeakMap<Shot, { firstNumber: number; findings: readonly Finding[] }>();

/** Everything wrong within one shot; `firstNumber` is the number its first frame is shown with. */
export function checkShot(shot: Shot, firstNumber: number): readonly Finding[] {
  const known = found.get(shot);
  if (known?.firstNumber === firstNumber) return known.findings;
  const findings = [...shot.levels.flatMap((level) => LEVEL_RULES.flatMap((rule) => rule(shot, level, firstNumber))), ...emptyTail(shot)];
  found.set(shot, { firstNumber, findings });
  return findings;
}

const GROUP_ORDER: readonly FindingGroup[] = ['counts', 'repeats', 'slips', 'undrawn'];

/** Everything wrong in a project, counts first. */
export function checkProject(project: Project, handedOver: HandedOver | null, planDigestNow: string | null): readonly Finding[] {
  const findings = [
    ...project.shots.flatMap((shot) => checkShot(shot, project.startFrame)),
    ...lastHandover(project, handedOver, planDigestNow),
  ];
  return GROUP_ORDER.flatMap((group) => findings.filter((finding) => finding.group === group));
}

/** Whether the counts on both sides of a link agree, disagree, or can't be compared yet. */
export type LinkState = 'agrees' | 'disagrees' | 'nothing';

/** The state of each link of the path, from the findings and from what there is to compare. */
export function linkStates(project: Project, findings: readonly Finding[], handedOver: HandedOver | null): Record<PathLink, LinkState> {
  const broken = new Set(findings.map((finding) => finding.breaks));
  const work = workOfProject(project);
  const state = (link: PathLink, comparable: boolean): LinkState => (broken.has(link) ? 'disagrees' : comparable ? 'agrees' : 'nothing');
  return {
    'plan-draw': state('plan-draw', work.drawings > 0),
    'draw-check': state('draw-check', work.drawn > 0),
    'check-assemble': state('check-assemble', work.drawings > 0),
    'assemble-handover': state('assemble-handover', handedOver !== null),
  };
}
