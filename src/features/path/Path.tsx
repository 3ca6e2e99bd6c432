'use client';
import { Popover } from 'radix-ui';
import type { LinkState } from '@/core/check/check';
import type { Finding, PathLink } from '@/core/check/finding';
import { framesOfReel } from '@/core/reel/reel';
import { workOfShot } from '@/core/sheet/work';
import { countText, plural } from '@/core/time/counts';
import { GO_THERE } from '@/core/words';
import { useInspection } from '@/features/path/inspecting';
import { goToStage, STAGE_NAMES, STAGES, type Stage, stageAddress } from '@/features/path/stages';
import { useFindings } from '@/features/path/useFindings';
import { useProject, useShot } from '@/features/project/hooks';
import { goToShot } from '@/features/project/navigation';
import { useViewStore } from '@/features/project/viewStore';
import { make } from '@/features/sync/session';
import { Button } from '@/ui/Button';

const LINK_AFTER: Partial<Record<Stage, PathLink>> = {
  plan: 'plan-draw',
  draw: 'draw-check',
  check: 'check-assemble',
  assemble: 'assemble-handover',
};

const STATE_WORDS: Record<LinkState, string> = { agrees: 'counts agree', disagrees: 'counts disagree', nothing: 'nothing to compare yet' };

/** Three leaning ticks: whole where counts agree, the middle one broken where they don't. */
function LinkTicks({ state }: { state: LinkState }) {
  const stroke = { agrees: 'stroke-[#9dbd1c]', disagrees: 'stroke-rust', nothing: 'stroke-[#c9c8bb]' }[state];
  return (
    <svg
      width="26"
      height="14"
      viewBox="0 0 26 14"
      fill="none"
      strokeWidth="2.6"
      strokeLinecap="round"
      className={stroke}
      aria-hidden="true"
    >
      <path d="M4 12 6.4 2" />
      {state === 'disagrees' ? <path d="M12 11.6 12.4 9.8M14 3.8 14.4 2" /> : <path d="M12 12 14.4 2" />}
      <path d="M20 12 22.4 2" />
    </svg>
  );
}

function BrokenLink({ between, findings }: { between: string; findings: readonly Finding[] }) {
  return (
    <Popover.Root>
      <Popover.Trigger aria-label={`${between}: ${STATE_WORDS.disagrees}. Show why`} className="rounded-md px-1.5 py-2 hover:bg-rust-wash">
        <LinkTicks state="disagrees" />
      </Popover.Trigger>
      <Popover.Portal>
        <Popover.Content sideOffset={6} className="panel z-50 max-h-[70vh] w-96 space-y-3 overflow-y-auto p-4 shadow-xl">
          <p className="font-semibold text-rust">{between}: counts disagree</p>
          {findings.map((finding) => (
            <div key={finding.id} className="space-y-1.5">
              <p>{finding.sentence}</p>
              <div className="flex flex-wrap gap-1.5">
                {finding.place && (
                  <Popover.Close asChild>
                    <Button
                      onClick={() =>
                        finding.place && goToShot(finding.place.shotId, finding.place.fromFrame, finding.place.levelId ?? undefined)
                      }
                    >
                      {GO_THERE}
                    </Button>
                  </Popover.Close>
                )}
                {finding.fixes.map((fix) => (
                  <Button key={fix.words} onClick={() => make(fix.step)}>
                    {fix.words}
                  </Button>
                ))}
              </div>
            </div>
          ))}
        </Popover.Content>
      </Popover.Portal>
    </Popover.Root>
  );
}

/** The way through the job, at a stage or beside them all (null): five stages with the counts that hold there, and whether they agree from one to the next. */
export function Path({ stage }: { stage: Stage | null }) {
  const project = useProject();
  const shot = useShot();
  const { project: calm, open: findings, isChecked, links, handedOver } = useFindings(project);
  // Playing needs the machine for itself, and so does whoever is changing something.
  const playing = useViewStore((state) => state.playing);
  useInspection(calm, calm === project && !playing && (stage === 'check' || stage === 'assemble' || stage === 'hand-over'));
  const work = shot ? workOfShot(shot) : { drawings: 0, drawn: 0 };
  const counts: Record<Stage, string> = {
    plan: shot ? `${countText(shot.frames)} fr · ${plural(work.drawings, 'drawing')}` : 'no shot',
    draw: `${countText(work.drawn)} of ${countText(work.drawings)} drawn`,
    check: !isChecked ? 'checking …' : findings.length === 0 ? 'no findings' : plural(findings.length, 'finding'),
    assemble: `${countText(framesOfReel(project))} fr`,
    'hand-over': handedOver ? `${countText(handedOver.frames)} fr counted` : 'none yet',
  };
  return (
    <nav aria-label="Stages" className="flex items-center max-[1000px]:flex-wrap max-[640px]:justify-center">
      {STAGES.map((name, index) => {
        const link = LINK_AFTER[name];
        const next = STAGES[index + 1];
        const between = next ? `${STAGE_NAMES[name]} to ${STAGE_NAMES[next]}` : '';
        return (
          <span key={name} className="flex items-center">
            <a
              href={stageAddress(project.id, name)}
              onClick={(event) => {
                // Another tab or window is the browser's own affair.
                if (event.ctrlKey || event.metaKey || event.shiftKey || event.button !== 0) return;
                event.preventDefault();
                goToStage(project.id, name);
              }}
              aria-current={name === stage ? 'page' : undefined}
              className={`rounded-xl px-4 max-[1150px]:px-2.5 py-1.5 text-center leading-4 ${name === stage ? 'bg-ink text-paper' : 'hover:bg-paper'}`}
            >
              <span className="block font-bold text-sm">{STAGE_NAMES[name]}</span>
              <span className={`numbers block whitespace-nowrap text-2xs ${name === stage ? 'text-lime-on-ink' : 'text-soft'}`}>
                {counts[name]}
              </span>
            </a>
            {link &&
              (links[link] === 'disagrees' ? (
                <BrokenLink between={between} findings={findings.filter((finding) => finding.breaks === link)} />
              ) : (
                <span
                  className="px-1.5 py-2"
                  role="img"
                  aria-label={`${between}: ${STATE_WORDS[links[link]]}`}
                  title={`${between}: ${STATE_WORDS[links[link]]}`}
                >
                  <LinkTicks state={links[link]} />
                </span>
              ))}
          </span>
        );
      })}
    </nav>
  );
}
