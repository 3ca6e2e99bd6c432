'use client';

import { useEffect, useMemo, useState } from 'react';
import type { Receipt } from '@/contracts/receipt';
import { type CheckedAgainst, linkStates, partKept } from '@/core/check/check';
import type { LastHandover } from '@/core/check/lastHandover';
import { framesShown, judge } from '@/core/count/verdict';
import type { Project } from '@/core/document/model';
import { formatOf, isTransparent } from '@/core/output/format';
import { isWholeTaking } from '@/core/output/taking';
import { framesOfReel } from '@/core/reel/reel';
import { remembered } from '@/core/remembered';
import { renderPlanOf } from '@/core/render/renderPlan';
import { useCheckedStore, wantChecked } from '@/features/path/checking';
import { useInspectionStore } from '@/features/path/inspecting';
import { askOwnDestinations, useOwnDestinations } from '@/features/path/ownDestinations';
import { useClipStore } from '@/features/project/clips';
import { shotInView } from '@/features/project/hooks';
import { digestOfPlan } from '@/features/project/planDigest';
import { useRateMoveStore } from '@/features/project/rateMove';
import { useRecordingStore } from '@/features/project/recordings';
import { useCalm } from '@/features/project/useCalm';
import { useViewStore } from '@/features/project/viewStore';
import { useProjectStore } from '@/features/sync/projectStore';
import { FORMATS } from '@/workers/client';

/** Whether what was handed over is the film frame by frame in its size and rate, and not its drawings or levels apart, or a loop with times of its own. */
const holdsEveryFrame = ({ options, taking }: Receipt): boolean =>
  (taking === null || isWholeTaking(taking)) &&
  (options?.kind !== 'pictures' || (options.split === 'together' && options.each === 'frame')) &&
  (options?.kind !== 'loop' || options.times.length === 0);

/** The last handover of the whole reel; null when there was none. */
function lastWhole(receipts: readonly Receipt[]): Receipt | null {
  return receipts.find((receipt) => receipt.shotId === null && receipt.whole && holdsEveryFrame(receipt)) ?? null;
}

function isGrounded({ formatId, options }: Receipt): boolean {
  const format = formatOf(FORMATS, formatId);
  return format !== undefined && !isTransparent(format, options ?? format.start);
}

const handedOverOf = (receipt: Receipt): LastHandover => ({
  fileName: receipt.fileName,
  frames: framesShown(receipt.request, receipt.count),
  rate: receipt.request.rate,
  agrees: judge(receipt.request, receipt.count).agrees,
  planDigest: receipt.planDigest,
  fileBytes: receipt.fileBytes,
  // Where a format holds no transparency there is paper under the pictures; of one that isn't known here that can't be told.
  hasGround: receipt.withBackground || isGrounded(receipt),
});

/** The digest of the plan the whole reel would leave with now; null until it is known. */
function usePlanDigest(project: Project, withBackground: boolean | null): string | null {
  const [known, setKnown] = useState<{ project: Project; digest: string | null } | null>(null);
  useEffect(() => {
    if (withBackground === null) return;
    let current = true;
    const frames = framesOfReel(project);
    const plan = frames > 0 ? renderPlanOf(project, { shotId: null, fromFrame: 0, toFrame: frames - 1, withBackground }) : null;
    if (plan?.ok) void digestOfPlan(plan.value).then((digest) => current && setKnown({ project, digest }));
    return () => {
      current = false;
    };
  }, [project, withBackground]);
  return known?.project === project ? known.digest : null;
}

/** The last handover as it is held against today, made once for each receipt. */
const handedOverBy = remembered(handedOverOf);

/** What is played as a loop, with its shot. */
function useLoop(project: Project): CheckedAgainst['loop'] {
  const shotId = useViewStore((state) => state.shotId);
  const loop = useViewStore((state) => state.loop);
  const id = shotInView(project, shotId)?.id;
  return useMemo(() => (loop && id ? { shotId: id, ...loop } : null), [loop, id]);
}

/** Before anything has been checked nothing is known to agree. */
const NOT_COMPARED: ReturnType<typeof linkStates> = {
  'plan-draw': 'nothing',
  'draw-check': 'nothing',
  'check-assemble': 'nothing',
  'assemble-handover': 'nothing',
};

/** Everything Check finds in a project, parted into open and kept; the state of the path's links, and the last whole handover as it is held against it. All of it is of `project`, as it was checked last; `isChecked` once it was. */
export function useFindings(projectNow: Project) {
  const calm = useCalm(projectNow);
  const receipts = useProjectStore((state) => state.receipts);
  const facts = useInspectionStore((state) => state.facts);
  const sounds = useRecordingStore((state) => state.facts);
  const clips = useClipStore((state) => state.facts);
  const rateMove = useRateMoveStore((state) => state.rateMove);
  const last = useMemo(() => lastWhole(receipts), [receipts]);
  const planDigestNow = usePlanDigest(calm, last?.withBackground ?? null);
  const loop = useLoop(calm);
  const destinations = useOwnDestinations((state) => state.own);
  useEffect(askOwnDestinations, []);
  const against = useMemo<CheckedAgainst>(
    () => ({ facts, sounds, clips, rateMove, handedOver: last && handedOverBy(last), planDigestNow, loop, destinations }),
    [facts, sounds, clips, rateMove, last, planDigestNow, loop, destinations],
  );
  useEffect(() => wantChecked(calm, against), [calm, against]);
  const checked = useCheckedStore();
  return useMemo(() => {
    const isOfThis = checked.project?.id === calm.id;
    const project = isOfThis && checked.project ? checked.project : calm;
    const { open, kept } = partKept(project, isOfThis ? checked.findings : []);
    const { handedOver } = isOfThis && checked.against ? checked.against : against;
    return {
      project,
      against: (isOfThis && checked.against) || against,
      open,
      kept,
      isChecked: isOfThis,
      links: isOfThis ? linkStates(project, open, handedOver) : NOT_COMPARED,
      handedOver,
    };
  }, [checked, calm, against]);
}
