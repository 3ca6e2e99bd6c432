'use client';
import { useEffect, useState } from 'react';
import { type FramesAPage, layOutPages, PAPERS } from '@/core/format/pdf/pageLayout';
import { inLanes, soundsOverShot } from '@/core/reel/sounds';
import { sheetColumns } from '@/core/sheet/columns';
import { framesOfRuns } from '@/core/sheet/runs';
import { plural } from '@/core/time/counts';
import { CANCEL } from '@/core/words';
import { inView, useProject, useShot } from '@/features/project/hooks';
import { saveBlob } from '@/features/project/saveText';
import { soundsToPrint } from '@/features/sheet/printedSounds';
import { usePrintStore } from '@/features/sheet/printStore';
import { settled } from '@/features/sync/settling';
import { Button } from '@/ui/Button';
import { Choice } from '@/ui/Choice';
import { Dialog } from '@/ui/Dialog';
import { toast } from '@/ui/toast';
import { print } from '@/workers/client';

type PaperChoice = keyof typeof PAPERS;

function Printing({ onClose }: { onClose: () => void }) {
  const project = useProject();
  const shot = useShot();
  const [stop] = useState(() => new AbortController());
  useEffect(() => () => stop.abort(), [stop]);
  const [paper, setPaper] = useState<PaperChoice>('a4');
  const [frames, setFrames] = useState<'96' | '100'>('96');
  const [charts, setCharts] = useState<'0' | '1'>('1');
  const [busy, setBusy] = useState(false);
  if (!shot) return <p>There is no shot to print.</p>;
  const framesAPage: FramesAPage = frames === '96' ? 96 : 100;
  const columns = sheetColumns(shot);
  const length = Math.max(shot.frames, ...columns.map((level) => framesOfRuns(level.exposures)));
  const sounds = soundsOverShot(project, shot.id);
  const lanes = sounds.length === 0 ? 0 : inLanes(sounds).lanes;
  const pages = layOutPages(paper, framesAPage, length, columns.length, lanes).pages.length;
  const count = columns.reduce((sum, level) => sum + level.charts.length, 0);

  const printSheet = async () => {
    setBusy(true);
    try {
      await settled();
      // What is open may have changed while the last stroke was settled.
      const { project: newest, shot: open } = inView() ?? { project, shot };
      const choices = { paper, framesAPage, charts: charts === '1' };
      const heard = await soundsToPrint(newest, open);
      const pdf = await print({ project: newest, shot: open, what: { kind: 'sheet', choices, heard } }, () => undefined, stop.signal);
      const name = `${newest.title} ${open.code} sheet.pdf`;
      saveBlob(pdf, name);
      toast.message(`${name} is saved.`);
      onClose();
    } catch (error) {
      if (stop.signal.aborted) return;
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
        void printSheet();
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
        Shot {shot.code}, {plural(length, 'frame')} and {plural(columns.length, 'level')}
        {sounds.length > 0 ? `, ${plural(sounds.length, 'sound')}` : ''} on {plural(pages, 'page')}
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
      about="As a PDF with numbers, roles, holds and notes, and with its sounds beside the frames. Words that are not in Latin letters are printed as pictures, in a face of this machine."
      open={open}
      onOpenChange={(next) => !next && close()}
    >
      <Printing onClose={close} />
    </Dialog>
  );
}
