import type { PictureFacts } from '@/core/analysis/facts';
import { areTooMany, type Flashes } from '@/core/analysis/flashRule';
import { type Destination, destinationOf } from '@/core/check/destinations';
import type { Finding } from '@/core/check/finding';
import type { LastHandover } from '@/core/check/lastHandover';
import type { ColourRange } from '@/core/document/checks';
import type { Project } from '@/core/document/model';
import { sizeText } from '@/core/document/size';
import { holdColoursStep } from '@/core/finish/finishEdits';
import { framesOfReel, isShot, type PlacedItem, type PlacedShot, placedItems, placedShots, shotsInOrder } from '@/core/reel/reel';
import { finishOf } from '@/core/render/renderPlan';
import { plural } from '@/core/time/counts';
import { framesInWords } from '@/core/time/frameWords';
import { rateName, sameRate } from '@/core/time/rate';
import { secondsText } from '@/core/time/seconds';

const PAPER_LEVEL = 255;
const MOST_LEVELS_NAMED = 6;

const refusal = (what: string, sentence: string, fixes: Finding['fixes'] = []): Finding => ({
  id: `destination ${what}`,
  kind: 'destination',
  group: 'refusals',
  breaks: 'assemble-handover',
  sentence,
  place: null,
  fixes,
});

function sizeTrouble({ name, sizes }: Destination, { size }: Project): string | null {
  if (sizes.kind === 'listed') {
    if (sizes.sizes.some((listed) => listed.width === size.width && listed.height === size.height)) return null;
    return `${name} takes ${sizes.sizes.map(sizeText).join(' or ')}; the film is ${sizeText(size)}.`;
  }
  if (Math.max(size.width, size.height) > sizes.longest)
    return `${name} takes sides up to ${sizes.longest} px; the film is ${sizeText(size)}.`;
  if (sizes.even && (size.width % 2 !== 0 || size.height % 2 !== 0))
    return `${name} takes even sides alone, since its colours are kept for 2 × 2 pixels; the film is ${sizeText(size)}.`;
  return null;
}

/** What a destination refuses in the format, the length and the last file; `handedOver` is the last handover of the whole reel. */
function formatRefusals(project: Project, destination: Destination, handedOver: LastHandover | null): readonly Finding[] {
  const { name, rates, shortestSeconds, longestSeconds, mostBytes, takesTransparency } = destination;
  const { rate } = project;
  const findings: Finding[] = [];
  const size = sizeTrouble(destination, project);
  if (size) findings.push(refusal('size', size));
  if (!rates.some((taken) => sameRate(taken, rate)))
    findings.push(refusal('rate', `${name} takes ${rates.map(rateName).join(', ')} frames a second; the film runs at ${rateName(rate)}.`));
  const frames = framesOfReel(project);
  const seconds = (frames * rate.den) / rate.num;
  if (seconds < shortestSeconds)
    findings.push(
      refusal(
        'short',
        `${name} takes ${shortestSeconds} s or more; the reel lasts ${secondsText(frames, rate)} s, ${plural(frames, 'frame')}.`,
      ),
    );
  if (longestSeconds !== null && seconds > longestSeconds)
    findings.push(
      refusal(
        'long',
        `${name} takes ${longestSeconds} s at most; the reel lasts ${secondsText(frames, rate)} s, ${plural(frames, 'frame')}.`,
      ),
    );
  if (handedOver && mostBytes !== null && handedOver.fileBytes > mostBytes)
    findings.push(
      refusal(
        'bytes',
        `${name} takes files of up to ${megabytes(mostBytes)}; the last handover, ${handedOver.fileName}, has ${megabytes(handedOver.fileBytes)}.`,
      ),
    );
  if (handedOver && !takesTransparency && !handedOver.hasGround)
    findings.push(
      refusal('transparency', `${name} takes no transparency; the last handover, ${handedOver.fileName}, was made without a background.`),
    );
  return findings;
}

const megabytes = (bytes: number) => `${(bytes / 1024 ** 2).toFixed(1)} MiB`;

/** Whether the finish holds the colours of everything that leaves within a range. */
function isHeldWithin(project: Project, { from, to }: ColourRange): boolean {
  const isHeld = finishOf(project, false).some(
    (effect) => effect.kind === 'holdColours' && effect.range.from >= from && effect.range.to <= to,
  );
  return isHeld && project.reel.items.every(({ finished }) => finished);
}

/** Colours outside what a destination takes, over all levels and the paper; one finding. */
function colourRefusal(project: Project, destination: Destination, facts: PictureFacts): readonly Finding[] {
  const { colours, name } = destination;
  if (!colours) return [];
  if (isHeldWithin(project, colours)) return [];
  const outside: { name: string; drawings: number; lowest: number; highest: number; shotId: string; levelId: string }[] = [];
  for (const shot of shotsInOrder(project)) {
    for (const level of shot.levels) {
      if (level.kind === 'guide') continue;
      const channels = level.drawings
        .flatMap(({ picture }) => (picture ? (facts.measures.get(picture)?.channels ?? []) : []))
        .filter(({ lowest, highest }) => lowest < colours.from || highest > colours.to);
      if (channels.length === 0) continue;
      const lowest = Math.min(...channels.map((channel) => channel.lowest));
      const highest = Math.max(...channels.map((channel) => channel.highest));
      outside.push({
        name: `${level.name} in ${shot.code}`,
        drawings: channels.length,
        lowest,
        highest,
        shotId: shot.id,
        levelId: level.id,
      });
    }
  }
  const paperIsOutside = colours.to < PAPER_LEVEL;
  if (outside.length === 0 && !paperIsOutside) return [];
  const named = outside
    .slice(0, MOST_LEVELS_NAMED)
    .map((level) => `${level.name} (${plural(level.drawings, 'drawing')}, ${level.lowest} to ${level.highest})`);
  const more = outside.length > MOST_LEVELS_NAMED ? [`${outside.length - MOST_LEVELS_NAMED} levels more`] : [];
  const all = [...(paperIsOutside ? ['the white paper (255)'] : []), ...named, ...more];
  const first = outside[0];
  return [
    {
      id: `colour-range ${colours.from} ${colours.to}`,
      kind: 'colour-range',
      group: 'refusals',
      breaks: null,
      sentence: `${name} takes red, green and blue from ${colours.from} to ${colours.to}. Outside are ${all.join(', ')}.`,
      place: first ? { shotId: first.shotId, levelId: first.levelId, fromFrame: 0, toFrame: 0 } : null,
      fixes: [
        {
          way: 'hold-colours',
          words: `Hold colours within ${colours.from}–${colours.to} in what is handed over; the drawings stay`,
          step: holdColoursStep(project, colours),
        },
      ],
    },
  ];
}

/** Flashes over the limit of WCAG 2.2, SC 2.3.1: for every destination, and when there is none. */
function flashFinding(project: Project, flashes: Flashes): readonly Finding[] {
  if (!areTooMany(flashes)) return [];
  const where = flashPlace(project, flashes);
  if (!where) return [];
  return [
    {
      id: `flashes ${flashes.kind}`,
      kind: 'flashes',
      group: 'refusals',
      breaks: 'check-assemble',
      sentence: `${flashes.kind === 'red' ? 'Red flashes' : 'It flashes'} ${flashes.flashes} times within a second, ${where.words}, over up to ${flashes.fieldPercent} % of the field: more than 3 can harm people (WCAG 2.2, 2.3.1). ${where.remedy}`,
      place: where.place,
      fixes: [],
    },
  ];
}

const HOLD_LONGER = 'Hold the pictures there longer, or bring their lightness closer.';

/** Where it flashes, in words: by frames of shots, or of the reel where a clip takes part. Null on a reel of gaps. */
function flashPlace(project: Project, { fromFrame, toFrame }: Flashes): { words: string; remedy: string; place: Finding['place'] } | null {
  // A gap is paper that stands still: what flashes into one is told by what it flashes from.
  const shown = placedItems(project).filter(({ item }) => item.kind !== 'gap');
  const from = shown.find(({ endFrame }) => endFrame > fromFrame);
  const to = shown.findLast(({ startFrame }) => startFrame <= toFrame);
  if (!from || !to) return null;
  const within = ({ startFrame, endFrame, fromFrame: first }: PlacedItem, frame: number) =>
    Math.max(startFrame, Math.min(frame, endFrame - 1)) - startFrame + first;
  if (isShot(from) && isShot(to)) {
    const number = (frame: number, placed: PlacedShot) => within(placed, frame) + project.firstFrameNumber;
    const end = to.shot === from.shot ? '' : ` of shot ${to.shot.code}`;
    return {
      words: `shot ${from.shot.code}, frames ${number(fromFrame, from)} to ${number(toFrame, to)}${end}`,
      remedy: HOLD_LONGER,
      place: { shotId: from.shot.id, levelId: null, fromFrame: within(from, fromFrame), toFrame: within(from, toFrame) },
    };
  }
  const name = (placed: PlacedItem) => (isShot(placed) ? `shot ${placed.shot.code}` : `the clip ${placed.source?.name}`);
  const names = from === to ? name(from) : `from ${name(from)} to ${name(to)}`;
  const shot = [from, to].find(isShot);
  const at = shot === from ? fromFrame : toFrame;
  return {
    words: `${names}, ${framesInWords(fromFrame, toFrame, project.firstFrameNumber)} of the reel`,
    remedy: from === to ? 'Trim the clip there, or bring in one that is held longer.' : HOLD_LONGER,
    place: shot ? { shotId: shot.shot.id, levelId: null, fromFrame: within(shot, at), toFrame: within(shot, at) } : null,
  };
}

/** Everything where the film is to go would refuse; `own` are destinations a person has made. */
export function refusals(
  project: Project,
  handedOver: LastHandover | null,
  facts: PictureFacts,
  own: readonly Destination[] = [],
): readonly Finding[] {
  const destination = destinationOf(project.checks.destination, own);
  const flashes = facts.flashes.flatMap((worst) => flashFinding(project, worst));
  if (!destination || placedShots(project).length === 0) return flashes;
  return [...formatRefusals(project, destination, handedOver), ...colourRefusal(project, destination, facts), ...flashes];
}
