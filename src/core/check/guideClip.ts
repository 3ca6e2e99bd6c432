import type { Finding, Fix, LevelRule } from '@/core/check/finding';
import { isAtRate, rateOfClip } from '@/core/document/media';
import { drawingById, type Level, type Shot } from '@/core/document/model';
import { repeatPattern } from '@/core/sheet/repeats';
import { framesOfRuns, placedRuns, tidyRuns } from '@/core/sheet/runs';
import { plural } from '@/core/time/counts';
import { rateName } from '@/core/time/rate';
import { secondsText } from '@/core/time/seconds';

/** Lays a guide's pictures anew over so many frames, each where it lies in the clip; only where it still has one for every frame of it. */
function layingFixes(shot: Shot, level: Level, startFrame: number, lengths: readonly number[]): readonly Fix[] {
  const pictures = level.media?.frames ?? 0;
  if (level.drawings.length !== pictures) return [];
  return [...new Set(lengths)].map((frames) => {
    const shown = Array.from(
      { length: frames },
      (_, frame) => level.drawings[Math.floor(((2 * frame + 1) * pictures) / (2 * frames))]?.id ?? null,
    );
    const runs = tidyRuns(shown.map((drawing) => ({ drawing, frames: 1 })));
    const words = `Lay it over ${plural(frames, 'frame')}${frames === pictures ? ', each picture once' : ''}`;
    const removedFrames = Math.max(0, framesOfRuns(level.exposures) - startFrame);
    return {
      way: `lay ${frames === pictures ? 'once' : 'by time'}`,
      words,
      step: { type: 'replaceRuns', shotId: shot.id, levelId: level.id, startFrame, removedFrames, runs },
    };
  });
}

/** What a guide made from a clip holds, against the clip: its frames, and its rate against the film's. */
export const guideClip: LevelRule = (shot, level, { rate, firstNumber }) => {
  const { media } = level;
  if (level.kind !== 'guide' || !media) return [];
  const at = { shotId: shot.id, levelId: level.id };
  const first = placedRuns(level.exposures).find((run) => run.drawing !== null);
  const held = framesOfRuns(level.exposures) - (first?.startFrame ?? 0);
  // A clip read frame for frame keeps its frames, until the film's rate is changed with its time kept: then it has its time.
  const byTime = Math.max(1, Math.round((media.lengthMicroseconds * rate.num) / (1e6 * rate.den)));
  const isWhole = held === byTime || (media.way === 'readAs' && held === media.frames);
  const reading =
    media.way === 'readAs' && media.frames !== byTime
      ? `is ${media.frames} frame for frame, or ${byTime} by its time`
      : `comes to ${byTime}`;
  const place = { ...at, fromFrame: first?.startFrame ?? 0, toFrame: Math.max(0, (first?.startFrame ?? 0) + held - 1) };
  const findings: Finding[] = [];
  const clipSeconds = Math.round(media.lengthMicroseconds / 1000) / 1000;
  if (!isWhole)
    findings.push({
      id: `guide-count ${level.id}`,
      kind: 'guide-count',
      group: 'counts',
      breaks: 'plan-draw',
      sentence: `Guide ${level.name} runs for ${plural(held, 'frame')}; its clip ${media.fileName} ${reading} (${plural(media.frames, 'picture')} in ${clipSeconds} s).`,
      place,
      fixes: layingFixes(shot, level, first?.startFrame ?? 0, media.way === 'readAs' ? [media.frames, byTime] : [byTime]),
    });
  const own = rateOfClip(media);
  if (media.way === 'readAs' && held === media.frames && !isAtRate(media, rate))
    findings.push({
      id: `guide-rate ${level.id}`,
      kind: 'guide-rate',
      group: 'counts',
      breaks: 'plan-draw',
      sentence: `Guide ${level.name} was made at ${own} pictures a second and is read frame for frame at ${rateName(rate)}: its ${clipSeconds} s last ${secondsText(media.frames, rate)} s here, from frame ${(first?.startFrame ?? 0) + firstNumber}.`,
      place,
      fixes: [],
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
      fixes: [],
    },
  ];
};
