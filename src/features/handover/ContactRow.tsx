import type { Outcome } from '@/core/outcome';
import { NO_SHOT } from '@/core/words';
import { contactFile } from '@/features/handover/contactFile';
import { HowFar } from '@/features/handover/HowFar';
import { Row } from '@/features/handover/Row';
import type { TimingFile } from '@/features/handover/timingFiles';
import { useMaking } from '@/features/handover/useMaking';
import { inView } from '@/features/project/hooks';
import { settled } from '@/features/sync/settling';
import { Button } from '@/ui/Button';

/** The open shot's drawings, each once with its frames, on paper or as one picture. */
export function ContactRow({ onSaid }: { onSaid: (files: Outcome<readonly TimingFile[]>) => void }) {
  const making = useMaking((why) => onSaid({ ok: false, reason: `The contact sheet could not be made: ${why}. Nothing was saved.` }));
  const make = (kind: 'pdf' | 'png') =>
    making.make(async (onProgress, stop) => {
      await settled();
      const view = inView();
      onSaid(
        view ? { ok: true, value: [await contactFile(view.project, view.shot, kind, onProgress, stop)] } : { ok: false, reason: NO_SHOT },
      );
    });
  return (
    <Row name="Drawings">
      {making.part === null ? (
        <div className="flex flex-wrap gap-1.5">
          <Button onClick={() => void make('pdf')}>Contact sheet (PDF)</Button>
          <Button onClick={() => void make('png')}>Contact sheet (PNG)</Button>
        </div>
      ) : (
        <HowFar what="Laying out drawings" making={making} />
      )}
    </Row>
  );
}
