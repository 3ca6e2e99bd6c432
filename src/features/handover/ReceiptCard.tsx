'use client';
import { useEffect, useState } from 'react';
import type { Receipt } from '@/contracts/receipt';
import { bytesText } from '@/core/bytes';
import { judge } from '@/core/count/verdict';
import type { Project } from '@/core/document/model';
import { done } from '@/core/outcome';
import { formatOf } from '@/core/output/format';
import { leavingOf } from '@/core/output/leaving';
import { framesToChoose, recipeOf } from '@/core/output/recipe';
import { takingWords, WHOLE_TAKING } from '@/core/output/taking';
import { renderPlanOf } from '@/core/render/renderPlan';
import { plural } from '@/core/time/counts';
import { framesInWords } from '@/core/time/frameWords';
import { useHandoverStore } from '@/features/handover/handoverStore';
import { canShare, saveFile, shareFile } from '@/features/handover/ownFiles';
import { openReceiptPage, saveReceipt } from '@/features/handover/saveReceipt';
import { useCalmProject } from '@/features/project/calmProject';
import { useProject } from '@/features/project/hooks';
import { digestOfPlan } from '@/features/project/planDigest';
import { Button } from '@/ui/Button';
import { toast } from '@/ui/toast';
import { FORMATS } from '@/workers/client';

/** Whether the same request would leave with other pictures, times or size now; false until that is known. */
function useIsOutOfDate(receipt: Receipt): boolean {
  const project = useCalmProject();
  const [known, setKnown] = useState<{ project: Project; digest: string | null } | null>(null);
  useEffect(() => {
    let current = true;
    const { whole, range, request, shotId, levelId, withBackground, options, taking } = receipt;
    const left = range ?? {
      fromFrame: request.firstNumber - project.firstFrameNumber,
      toFrame: request.firstNumber - project.firstFrameNumber + request.frames - 1,
    };
    const { fromFrame, toFrame } = whole ? { fromFrame: 0, toFrame: framesToChoose(project, shotId) - 1 } : left;
    const asked = { shotId, levelId, fromFrame, toFrame, withBackground };
    const leaving = options ? leavingOf(project, asked, options, taking ?? WHOLE_TAKING) : null;
    const plan = leaving ? (leaving.ok ? done(leaving.value.plan) : leaving) : renderPlanOf(project, asked);
    const digest = plan.ok ? digestOfPlan(plan.value) : Promise.resolve(null);
    void digest.then((found) => current && setKnown({ project, digest: found }));
    return () => {
      current = false;
    };
  }, [project, receipt]);
  return known?.project === project && known.digest !== receipt.planDigest;
}

/** Which part left, where it was not all; frames by their numbers. */
const partWords = ({ whole, request }: Receipt): string => (whole ? '' : ` · ${framesInWords(0, request.frames - 1, request.firstNumber)}`);

/** A receipt: what was asked beside what was counted by opening the written file again. */
export function ReceiptCard({ receipt }: { receipt: Receipt }) {
  const file = useHandoverStore((state) => state.files.get(receipt.id));
  const verdict = judge(receipt.request, receipt.count);
  const [isShareable] = useState(canShare);
  const isOutOfDate = useIsOutOfDate(receipt);
  const project = useProject();
  const projectId = project.id;
  const recipe = recipeOf(project, receipt, formatOf(FORMATS, receipt.formatId));
  const told = (what: string) => (error: unknown) =>
    void toast.error(`${what}: ${error instanceof Error ? error.message : 'the server does not answer'}`);
  const save = () => void saveReceipt(projectId, receipt).catch(told('The receipt could not be saved'));
  const print = () =>
    void openReceiptPage(projectId, receipt).then(
      (isOpen) => isOpen || toast.error('This browser opened no window for the receipt: allow windows for this page and press again.'),
      told('The receipt could not be shown'),
    );
  return (
    <article aria-label={`Receipt for ${receipt.fileName}`} className="rounded-xl border border-line bg-sunk p-3.5">
      <header className="flex items-baseline justify-between gap-2">
        <h3 className="break-all font-bold">{receipt.fileName}</h3>
        <strong className={verdict.agrees ? 'text-moss' : 'text-rust'} data-testid="verdict">
          {verdict.agrees ? 'agrees' : verdict.isWhole ? 'disagrees' : 'not proved'}
        </strong>
      </header>
      <p className="mb-1.5 text-2xs text-soft">
        {new Date(receipt.madeAt).toLocaleString()} · {bytesText(receipt.fileBytes)} · {receipt.pictures} pictures made ·{' '}
        {receipt.withBackground ? 'with' : 'without'} background{partWords(receipt)}
        {receipt.count.keyFrames && ` · ${plural(receipt.count.keyFrames.length, 'key frame')}`}
        {receipt.taking && takingWords(receipt.taking).map((words) => ` · ${words}`)}
        {receipt.finish.length > 0 && ` · ${receipt.finish.join('; ')}`}
      </p>
      {isOutOfDate && <p className="mb-1.5 text-rust text-xs">Out of date: drawings or timing have changed since. Hand it over again.</p>}
      <table className="w-full text-xs">
        <thead>
          <tr className="text-soft">
            <th scope="col" className="sr-only">
              What
            </th>
            <th scope="col" className="text-right font-normal">
              asked
            </th>
            <th scope="col" className="text-right font-normal">
              counted
            </th>
          </tr>
        </thead>
        <tbody>
          {verdict.lines.map((line) => (
            <tr key={line.what}>
              <th scope="row" className="py-0.5 text-left font-normal">
                {line.what}
              </th>
              <td className="numbers text-right">{line.asked}</td>
              <td className={`numbers text-right font-semibold ${line.agrees ? 'text-moss' : 'text-rust'}`}>
                {line.counted}
                {!line.agrees && ' ✕'}
              </td>
            </tr>
          ))}
        </tbody>
      </table>
      <ul className="mt-1.5 space-y-1 text-soft text-xs">
        {verdict.sentences.map((sentence) => (
          <li key={sentence}>{sentence}</li>
        ))}
        <li>* pictures repeated where the sheet has no hold</li>
      </ul>
      {receipt.fileDigest && (
        <p className="numbers mt-1 truncate text-2xs text-soft" title={`SHA-256 of the file: ${receipt.fileDigest}`}>
          SHA-256 {receipt.fileDigest}
        </p>
      )}
      <div className="mt-2 flex flex-wrap gap-1.5">
        {file && <Button onClick={() => void saveFile(file.storedAs, file.fileName)}>Save again</Button>}
        {file && isShareable && (
          <Button onClick={() => void shareFile(file.storedAs, file.fileName).catch(told('It could not be shared'))}>Share…</Button>
        )}
        <Button onClick={save}>Save receipt</Button>
        <Button onClick={print} title="Opens it as a page by itself, with the digest of every frame">
          Receipt to print
        </Button>
        {recipe && (
          <Button onClick={() => useHandoverStore.setState({ recipe })} title="Sets everything on the left as it was for this one">
            Take its settings
          </Button>
        )}
      </div>
    </article>
  );
}
