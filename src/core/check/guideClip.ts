import type { Finding, LevelRule } from '@/core/check/finding';
import { drawingById } from '@/core/sheet/document';
import { isAtRate, rateOfClip } from '@/core/sheet/media';
import { repeatPattern } from '@/core/sheet/repeats';
import { framesOfRuns, placedRuns } from '@/core/sheet/runs';
import { plural } from '@/core/time/counts';
import { rateName } from '@/core/time/rate';
import { secondsText } from '@/core/time/seconds';

/** What a guide made from a clip holds, against the clip: its frames, and its rate against the film's. */
export const guideClip: LevelRule = (shot, level, { rate, firstNumber }) => {
  const { media } = level;
  if (level.kind !== 'guide' || !media) return [];
  const at = { shotId: shot.id, levelId: level.id };
  const first = placedRuns(level.exposures).find((run) => run.drawing !== null);
  const held = framesOfRuns(level.exposures) - (first?.startFrame ?? 0);
  const expected =
    media.way === 'readAs' ? media.frames : Math.max(1, Math.round((media.lengthMicroseconds * rate.num) / (1e6 * rate.den)));
  const place = { ...at, fromFrame: first?.startFrame ?? 0, toFrame: Math.max(0, (first?.startFrame ?? 0) + held - 1) };
  const findings: Finding[] = [];
  const clipSeconds = Math.round(media.lengthMicroseconds / 1000) / 1000;
  if (held !== expected)
    findings.push({
      id: `guide-count ${level.id}`,
      kind: 'guide-count',
      group: 'counts',
      breaks: 'plan-draw',
      sentence: `Guide ${level.name} holds ${plural(held, 'frame')}; its clip ${media.fileName} comes to ${expected} (${plural(media.frames, 'picture')} in ${clipSeconds} s).`,
      place,
      mends: [],
    });
  const own = rateOfClip(media);
  if (media.way === 'readAs' && !isAtRate(media, rate))
    findings.push({
      id: `guide-rate ${level.id}`,
      kind: 'guide-rate',
      group: 'counts',
      breaks: 'plan-draw',
      sentence: `Guide ${level.name} was made at ${own} pictures a second and is read frame for frame at ${rateName(rate)}: its ${clipSeconds} s last ${secondsText(media.frames, rate)} s here, from frame ${(first?.startFrame ?? 0) + firstNumber}.`,
      place,
      mends: [],
    });
  return findings;
};

/** Pictures of a guide that stand for several frames, with the pattern they do it in; none when each stands one. */
export const guideRepeats: LevelRule = (shot, level, { firstNumber }) => {
  if (level.kind !== 'guide' || !level.media) return [];
  const runs = placedRuns(level.exposures).filter((run) => run.drawing !== null);
  const pictures = runs.flatMap((run) => {
    const picture = drawingById(level, run.drawing)?.picture ?? null;
    return Array.from({ length: run.endFrame - run.startFrame }, () => picture);
  });
  const repeats = pictures.map((picture, index) => index > 0 && picture !== null && picture === pictures[index - 1]);
  const places = repeats.flatMap((repeat, index) => (repeat ? [index] : []));
  const [firstRun] = runs;
  if (places.length === 0 || !firstRun) return [];
  const at = { shotId: shot.id, levelId: level.id };
  const frame = firstRun.startFrame + (places[0] as number);
  return [
    {
      id: `guide-repeats ${level.id}`,
      kind: 'guide-repeats',
      group: 'repeats',
      breaks: null,
      sentence: `Guide ${level.name}: ${places.length} of ${plural(pictures.length, 'frame')} ${places.length === 1 ? 'repeats' : 'repeat'} the one before${repeatPattern(repeats)}, first on frame ${frame + firstNumber}.`,
      place: { ...at, fromFrame: frame, toFrame: frame },
      mends: [],
    },
  ];
};
