'use client';
import { useEffect, useMemo, useState } from 'react';
import type { Receipt } from '@/contracts/receipt';
import { checkProject, linkStates } from '@/core/check/check';
import type { HandedOver } from '@/core/check/lastHandover';
import { planFrames, planText } from '@/core/handover/framePlan';
import { judge } from '@/core/handover/receipt';
import { digestOfBytes } from '@/core/raster/digest';
import { framesOfReel } from '@/core/reel/reel';
import type { Project } from '@/core/sheet/document';
import { useProjectStore } from '@/features/project/projectStore';
import { useCalm } from '@/features/project/useCalm';

/** The last handover of the whole reel; null when there was none. */
function lastWhole(receipts: readonly Receipt[]): Receipt | null {
  return receipts.find((receipt) => receipt.shotId === null && receipt.whole) ?? null;
}

const handedOverOf = (receipt: Receipt): HandedOver => ({
  fileName: receipt.fileName,
  frames: receipt.counted.frames,
  rate: receipt.asked.rate,
  agrees: judge(receipt.asked, receipt.counted).agrees,
  planDigest: receipt.planDigest,
});

/** The digest of the plan the whole reel would leave with now; null until it is known. */
function usePlanDigest(project: Project, withBackground: boolean | null): string | null {
  const [known, setKnown] = useState<{ project: Project; digest: string } | null>(null);
  useEffect(() => {
    if (withBackground === null) return;
    let current = true;
    const frames = framesOfReel(project);
    const plan = frames > 0 ? planFrames(project, { shotId: null, fromFrame: 0, toFrame: frames - 1, withBackground }) : null;
    if (plan?.ok) void digestOfBytes(planText(plan.value)).then((digest) => current && setKnown({ project, digest }));
    return () => {
      current = false;
    };
  }, [project, withBackground]);
  return known?.project === project ? known.digest : null;
}

/** Everything Check finds in a project, the state of the path's links, and the last whole handover. */
export function useFindings(projectNow: Project) {
  const project = useCalm(projectNow);
  const receipts = useProjectStore((state) => state.receipts);
  const last = useMemo(() => lastWhole(receipts), [receipts]);
  const planDigestNow = usePlanDigest(project, last?.withBackground ?? null);
  return useMemo(() => {
    const handedOver = last ? handedOverOf(last) : null;
    const findings = checkProject(project, handedOver, planDigestNow);
    return { findings, links: linkStates(project, findings, handedOver), last };
  }, [project, last, planDigestNow]);
}
