import type { PictureFacts } from '@/core/analysis/facts';
import { areTooMany, type Flashes } from '@/core/analysis/flashRule';
import { type Destination, destinationOf } from '@/core/check/destinations';
import type { Finding } from '@/core/check/finding';
import type { LastHandover } from '@/core/check/lastHandover';
import type { ColourRange } from '@/core/document/checks';
import type { Project } from '@/core/document/model';
import { sizeText } from '@/core/document/size';
import { holdColoursStep } from '@/core/finish/finishEdits';
import { framesOfReel, type PlacedShot, placedShots, shotAt, shotsInOrder } from '@/core/reel/reel';
import { finishOf } from '@/core/render/renderPlan';
import { plural } from '@/core/time/counts';
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
  // A gap is paper that stands still: what flashes into one is told by the shot it flashes from.
  const from = shotAt(project, flashes.fromFrame) ?? placedShots(project).find(({ startFrame }) => startFrame >= flashes.fromFrame);
  const to = shotAt(project, flashes.toFrame) ?? placedShots(project).findLast(({ endFrame }) => endFrame <= flashes.toFrame);
  if (!from || !to) return [];
  const within = ({ startFrame, endFrame, fromFrame }: PlacedShot, frame: number) =>
    Math.max(startFrame, Math.min(frame, endFrame - 1)) - startFrame + fromFrame;
  const number = (frame: number, placed: PlacedShot) => within(placed, frame) + project.firstFrameNumber;
  const end = to.shot === from.shot ? '' : ` of shot ${to.shot.code}`;
  return [
    {
      id: `flashes ${flashes.kind}`,
      kind: 'flashes',
      group: 'refusals',
      breaks: 'check-assemble',
      sentence: `${flashes.kind === 'red' ? 'Red flashes' : 'It flashes'} ${flashes.flashes} times within a second, shot ${from.shot.code}, frames ${number(flashes.fromFrame, from)} to ${number(flashes.toFrame, to)}${end}, over up to ${flashes.fieldPercent} % of the field: more than 3 can harm people (WCAG 2.2, 2.3.1). Hold the pictures there longer, or bring their lightness closer.`,
      place: {
        shotId: from.shot.id,
        levelId: null,
        fromFrame: within(from, flashes.fromFrame),
        toFrame: within(from, flashes.toFrame),
      },
      fixes: [],
    },
  ];
}

/** Everything where the film is to go would refuse. */
export function refusals(project: Project, handedOver: LastHandover | null, facts: PictureFacts): readonly Finding[] {
  const destination = destinationOf(project.checks.destination);
  const flashes = facts.flashes.flatMap((worst) => flashFinding(project, worst));
  if (!destination || placedShots(project).length === 0) return flashes;
  return [...formatRefusals(project, destination, handedOver), ...colourRefusal(project, destination, facts), ...flashes];
}
