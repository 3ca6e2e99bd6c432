import type { ClipFacts, PictureFacts, SoundFacts } from '@/core/analysis/facts';
import { chartFits } from '@/core/check/chartFits';
import { cycleSeam } from '@/core/check/cycleSeam';
import { type Destination, destinationOf } from '@/core/check/destinations';
import { emptyTail } from '@/core/check/emptyTail';
import { type CheckContext, FINDING_GROUPS, type Finding, type LevelRule, type PathLink } from '@/core/check/finding';
import { guideClip, guideRepeats } from '@/core/check/guideClip';
import { type LastHandover, lastHandover } from '@/core/check/lastHandover';
import { levelPastEnd } from '@/core/check/levelPastEnd';
import { missingClip } from '@/core/check/missingClip';
import { missingPicture } from '@/core/check/missingPicture';
import { missingSound } from '@/core/check/missingSound';
import { movedCut, type RateMove } from '@/core/check/movedCut';
import { nearPicture } from '@/core/check/nearPicture';
import { neverExposed } from '@/core/check/neverExposed';
import { numberOrder } from '@/core/check/numberOrder';
import { oneFrameGap } from '@/core/check/oneFrameGap';
import { plannedEmpty } from '@/core/check/plannedEmpty';
import { refusals } from '@/core/check/refusals';
import { sameApart } from '@/core/check/sameApart';
import { samePicture } from '@/core/check/samePicture';
import { shortLevel } from '@/core/check/shortLevel';
import { loopSeam, shotJoin } from '@/core/check/shotJoin';
import { soundPlace } from '@/core/check/soundPlace';
import { soundRate } from '@/core/check/soundRate';
import { stillRuns } from '@/core/check/stillRun';
import { stray } from '@/core/check/stray';
import { trimPast } from '@/core/check/trimPast';
import type { Level, Project, Shot, ShotId } from '@/core/document/model';
import { isWhole, placedItems, shotsInOrder } from '@/core/reel/reel';
import { remembered, rememberedUnder } from '@/core/remembered';
import { workOfProject } from '@/core/sheet/work';

/** Rules that look at a level's own sheet, and at its shot's code and length. */
const LEVEL_RULES: readonly LevelRule[] = [
  levelPastEnd,
  neverExposed,
  guideClip,
  samePicture,
  sameApart,
  cycleSeam,
  guideRepeats,
  oneFrameGap,
  stray,
  chartFits,
  numberOrder,
  plannedEmpty,
];

/** What was found before, kept with the very level or shot it was found in: after an edit elsewhere nothing is checked again. */
const foundOnLevel = rememberedUnder<Level, string, readonly Finding[]>();
const foundInShot = rememberedUnder<Shot, string, readonly Finding[]>();
/** What was found in pictures, kept with the facts about them. */
const foundInPictures = remembered((_facts: PictureFacts) => rememberedUnder<Level, string, readonly Finding[]>());

const lookingKey = ({ firstNumber, rate, checks }: CheckContext) => `${firstNumber} ${rate.num}/${rate.den} ${checks.stillFrames}`;

/** Everything wrong with the sheet of one shot. */
export function checkShot(shot: Shot, looking: CheckContext): readonly Finding[] {
  return foundInShot(shot, lookingKey(looking), () => [
    ...shot.levels.flatMap((level) =>
      foundOnLevel(level, `${shot.id} ${shot.code} ${shot.frames} ${lookingKey(looking)}`, () =>
        LEVEL_RULES.flatMap((rule) => rule(shot, level, looking)),
      ),
    ),
    ...shot.levels.flatMap((level) => shortLevel(shot, level, looking)),
    ...emptyTail(shot),
    ...stillRuns(shot, looking),
  ]);
}

/** Everything wrong with the pictures of one level. */
function checkPictures(shot: Shot, level: Level, facts: PictureFacts, { firstNumber, checks }: CheckContext): readonly Finding[] {
  const onLevel = foundInPictures(facts);
  return onLevel(level, `${shot.id} ${firstNumber} ${checks.nearPerMille}`, () => [
    ...missingPicture(shot, level, facts),
    ...nearPicture(shot, level, facts, checks.nearPerMille, firstNumber),
  ]);
}

/** What a project is held against besides itself. */
export type CheckedAgainst = {
  readonly facts: PictureFacts;
  readonly sounds: SoundFacts;
  readonly clips: ClipFacts;
  /** What the last change of the film's rate did to the cuts; null when that isn't known, or nothing. */
  readonly rateMove: RateMove | null;
  /** The last handover of the whole reel. */
  readonly handedOver: LastHandover | null;
  /** The digest of the plan the same request would leave with now; null when it is not known yet. */
  readonly planDigestNow: string | null;
  /** A range of a shot that is played as a loop. */
  readonly loop: { readonly shotId: ShotId; readonly fromFrame: number; readonly toFrame: number } | null;
  /** Destinations a person has made, beside those that come with the program. */
  readonly destinations: readonly Destination[];
};

function seams(project: Project, { loop, destinations }: CheckedAgainst, looking: CheckContext): readonly Finding[] {
  const [first, second] = placedItems(project);
  const only = first && second === undefined && isWhole(first) ? first.shot : undefined;
  if (destinationOf(project.checks.destination, destinations)?.loops && only)
    return loopSeam(only, { fromFrame: 0, toFrame: only.frames - 1 }, looking);
  const shot = project.shots.find((candidate) => candidate.id === loop?.shotId);
  return shot && loop ? loopSeam(shot, { fromFrame: loop.fromFrame, toFrame: Math.min(loop.toFrame, shot.frames - 1) }, looking) : [];
}

/** Findings about the very same things are told apart by which of how many they are: when one goes, none takes the note of another. */
function withOwnIds(findings: readonly Finding[]): readonly Finding[] {
  const counts = new Map<string, number>();
  for (const { id } of findings) counts.set(id, (counts.get(id) ?? 0) + 1);
  const seen = new Map<string, number>();
  return findings.map((finding) => {
    const all = counts.get(finding.id) ?? 1;
    if (all === 1) return finding;
    const place = (seen.get(finding.id) ?? 0) + 1;
    seen.set(finding.id, place);
    return { ...finding, id: `${finding.id} ${place}/${all}` };
  });
}

/** An id without what tells it from others about the same things. */
const baseOf = (id: string): string => id.replace(/( \d+\/\d+)+$/, '');

/** Everything found wrong in a project, in the order of its groups; what is kept as intended is among it. */
export function checkProject(project: Project, against: CheckedAgainst): readonly Finding[] {
  const looking: CheckContext = { firstNumber: project.firstFrameNumber, rate: project.rate, checks: project.checks };
  const { facts, sounds, clips, rateMove, handedOver, planDigestNow, destinations } = against;
  const shots = shotsInOrder(project);
  const findings = withOwnIds([
    ...shots.flatMap((shot) => checkShot(shot, looking)),
    ...shots.flatMap((shot) => shot.levels.flatMap((level) => checkPictures(shot, level, facts, looking))),
    ...trimPast(project),
    ...movedCut(project, rateMove),
    ...shotJoin(project, looking),
    ...seams(project, against, looking),
    ...soundPlace(project),
    ...soundRate(project),
    ...missingSound(project, sounds),
    ...missingClip(project, clips),
    ...lastHandover(project, handedOver, planDigestNow),
    ...refusals(project, handedOver, facts, destinations),
  ]);
  return FINDING_GROUPS.flatMap((group) => findings.filter((finding) => finding.group === group));
}

/** Findings parted into those that are open and those kept as intended. */
export function partKept(
  project: Project,
  findings: readonly Finding[],
): { open: readonly Finding[]; kept: readonly (Finding & { note: string })[] } {
  const notes = new Map(project.checks.kept.map((entry) => [entry.finding, entry.note]));
  const counts = new Map<string, number>();
  for (const { id } of findings) counts.set(baseOf(id), (counts.get(baseOf(id)) ?? 0) + 1);
  // A note kept before exposures were told apart is that of the only finding it can be about.
  const noteOf = ({ id }: Finding) => notes.get(id) ?? (counts.get(baseOf(id)) === 1 ? notes.get(baseOf(id)) : undefined);
  const open: Finding[] = [];
  const kept: (Finding & { note: string })[] = [];
  for (const finding of findings) {
    const note = noteOf(finding);
    if (note === undefined) open.push(finding);
    else kept.push({ ...finding, note });
  }
  return { open, kept };
}

/** Whether the counts on both sides of a link agree, disagree, or can't be compared yet. */
export type LinkState = 'agrees' | 'disagrees' | 'nothing';

/** The state of each link of the path, from the open findings and from what there is to compare. */
export function linkStates(
  project: Project,
  openFindings: readonly Finding[],
  handedOver: LastHandover | null,
): Record<PathLink, LinkState> {
  const broken = new Set(openFindings.map((finding) => finding.breaks));
  const work = workOfProject(project);
  const state = (link: PathLink, comparable: boolean): LinkState => (broken.has(link) ? 'disagrees' : comparable ? 'agrees' : 'nothing');
  return {
    'plan-draw': state('plan-draw', work.drawings > 0),
    'draw-check': state('draw-check', work.drawn > 0),
    'check-assemble': state('check-assemble', work.drawings > 0),
    'assemble-handover': state('assemble-handover', handedOver !== null),
  };
}
