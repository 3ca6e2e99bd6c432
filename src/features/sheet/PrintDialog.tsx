'use client';
import { useState } from 'react';
import { toast } from 'sonner';
import { layOutPages, PAPERS } from '@/core/format/pdf/pageLayout';
import { sheetColumns } from '@/core/sheet/columns';
import { framesOfRuns } from '@/core/sheet/runs';
import { plural } from '@/core/time/counts';
import { CANCEL } from '@/core/words';
import { useProject, useShot } from '@/features/project/hooks';
import { usePrintStore } from '@/features/sheet/printStore';
import { untilKept } from '@/features/sync/session';
import { settled } from '@/features/sync/settling';
import { Button } from '@/ui/Button';
import { Choice } from '@/ui/Choice';
import { Dialog } from '@/ui/Dialog';

type PaperChoice = keyof typeof PAPERS;

function Printing({ onClose }: { onClose: () => void }) {
  const project = useProject();
  const shot = useShot();
  const [paper, setPaper] = useState<PaperChoice>('a4');
  const [frames, setFrames] = useState<'96' | '100'>('96');
  const [charts, setCharts] = useState<'0' | '1'>('1');
  const [busy, setBusy] = useState(false);
  if (!shot) return <p>There is no shot to print.</p>;
  const columns = sheetColumns(shot);
  const length = Math.max(shot.frames, ...columns.map((level) => framesOfRuns(level.exposures)));
  const pages = layOutPages(paper, frames === '96' ? 96 : 100, length, columns.length).pages.length;
  const count = columns.reduce((sum, level) => sum + level.charts.length, 0);

  const print = async () => {
    setBusy(true);
    try {
      await settled();
      if (!(await untilKept()))
        throw new Error('The server doesn’t answer, so what it has is not all you did. Start it again and print then.');
      const response = await fetch(`/api/projects/${project.id}/shots/${shot.id}/sheet?paper=${paper}&frames=${frames}&charts=${charts}`);
      if (!response.ok) throw new Error(`The server answered ${response.status}.`);
      const link = document.createElement('a');
      link.href = URL.createObjectURL(await response.blob());
      link.download = `${project.title} ${shot.code} sheet.pdf`;
      link.click();
      setTimeout(() => URL.revokeObjectURL(link.href), 60_000);
      onClose();
    } catch (error) {
      toast.error(`The sheet could not be printed. ${error instanceof Error ? error.message : ''}`);
    } finally {
      setBusy(false);
    }
  };

  return (
    <form
      className="mt-3 space-y-3"
      onSubmit={(event) => {
        event.preventDefault();
        void print();
      }}
    >
      <div className="space-y-1">
        <p className="text-soft text-xs">Paper</p>
        <Choice
          label="Paper"
          value={paper}
          options={(Object.keys(PAPERS) as PaperChoice[]).map((value) => ({ value, label: PAPERS[value].name }))}
          onChange={setPaper}
        />
      </div>
      <div className="space-y-1">
        <p className="text-soft text-xs">Frames a page</p>
        <Choice
          label="Frames a page"
          value={frames}
          options={[
            { value: '96', label: '96' },
            { value: '100', label: '100' },
          ]}
          onChange={setFrames}
        />
      </div>
      <div className="space-y-1">
        <p className="text-soft text-xs">Timing charts</p>
        <Choice
          label="Timing charts"
          value={charts}
          options={[
            { value: '1', label: 'fractions on the sheet, charts after it' },
            { value: '0', label: 'left out' },
          ]}
          onChange={setCharts}
        />
      </div>
      <p className="text-soft text-xs">
        Shot {shot.code}, {plural(length, 'frame')} and {plural(columns.length, 'level')} on {plural(pages, 'page')}
        {charts === '1' && count > 0 ? `, and ${plural(count, 'chart')} after them` : ''}.
      </p>
      <div className="flex justify-end gap-2">
        <Button kind="quiet" onClick={onClose}>
          {CANCEL}
        </Button>
        <Button kind="go" type="submit" disabled={busy}>
          {busy ? 'Printing …' : 'Print as PDF'}
        </Button>
      </div>
    </form>
  );
}

/** The window for printing the open shot's sheet. */
export function PrintDialog() {
  const open = usePrintStore((state) => state.open);
  const close = () => usePrintStore.setState({ open: false });
  return (
    <Dialog
      title="Print the sheet"
      about="As a PDF with numbers, roles, holds and notes; words outside the Latin letters are printed as boxes."
      open={open}
      onOpenChange={(next) => !next && close()}
    >
      <Printing onClose={close} />
    </Dialog>
  );
}
