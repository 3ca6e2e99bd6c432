'use client';
import { useState } from 'react';
import type { Outcome } from '@/core/outcome';
import { hasDropFrame } from '@/core/time/timecode';
import { NO_SHOT } from '@/core/words';
import { ContactRow } from '@/features/handover/ContactRow';
import { HowFar } from '@/features/handover/HowFar';
import { Row } from '@/features/handover/Row';
import { TimingBack } from '@/features/handover/TimingBack';
import { captionsFile, edlFile, otioFile, soundFiles, type TimelineChoice, type TimingFile } from '@/features/handover/timingFiles';
import { useMaking } from '@/features/handover/useMaking';
import { inView, useProject } from '@/features/project/hooks';
import { saveBlob } from '@/features/project/saveText';
import { Button } from '@/ui/Button';
import { Choice } from '@/ui/Choice';
import { laterDo } from '@/ui/later';

const withSheetFiles = laterDo(() => import('@/features/sheet/sheetFiles'));

/** What came of the last press: files with what was found in them, or why there are none. */
type Said = { readonly files: readonly TimingFile[] } | { readonly reason: string } | null;

/** The mix or each sound apart, with how far it is. */
function SoundRow({ onSaid }: { onSaid: (files: Outcome<readonly TimingFile[]>) => void }) {
  const project = useProject();
  const making = useMaking((why) => onSaid({ ok: false, reason: `The sound could not be mixed: ${why}.` }));
  const make = (apart: boolean) => making.make(async (onProgress, stop) => onSaid(await soundFiles(project, apart, stop, onProgress)));
  return (
    <Row name="Sound">
      {making.part === null ? (
        <div className="flex flex-wrap gap-1.5">
          <Button onClick={() => void make(false)}>Mix as WAV</Button>
          <Button onClick={() => void make(true)}>Each sound as WAV</Button>
        </div>
      ) : (
        <HowFar what="Mixing" making={making} />
      )}
    </Row>
  );
}

/** The open shot's current frame, or its current level, as a layered picture. */
function LayersRow({ onSaid }: { onSaid: (files: Outcome<readonly TimingFile[]>) => void }) {
  const [isMaking, setMaking] = useState(false);
  const make = async (what: 'frame' | 'level') => {
    const view = inView();
    if (!view) return onSaid({ ok: false, reason: NO_SHOT });
    const { project, shot, level, frame } = view;
    if (what === 'level' && !level) return onSaid({ ok: false, reason: 'The shot has no level.' });
    setMaking(true);
    try {
      const { frameInLayers, levelInLayers } = await import('@/features/handover/layeredPicture');
      const file = what === 'level' && level ? await levelInLayers(project, shot, level) : await frameInLayers(project, shot, frame);
      onSaid(file.ok ? { ok: true, value: [file.value] } : file);
    } catch (error) {
      const reason = error instanceof Error && error.message !== '' ? error.message : 'the server does not answer';
      onSaid({ ok: false, reason: `The layers could not be put together: ${reason}. Nothing was saved.` });
    } finally {
      setMaking(false);
    }
  };
  return (
    <Row name="Layers">
      <div className="flex flex-wrap gap-1.5">
        <Button disabled={isMaking} onClick={() => void make('frame')}>
          This frame (OpenRaster)
        </Button>
        <Button disabled={isMaking} onClick={() => void make('level')}>
          This level’s drawings
        </Button>
      </div>
    </Row>
  );
}

/** The timing itself, for other software: the reel as a timeline or a list, its words, its sounds, the open shot's sheet. */
export function TimingPanel() {
  const project = useProject();
  const [choice, setChoice] = useState<TimelineChoice>({ pointsTo: 'films', atHour: false, drop: false, withSound: true });
  const [withAccents, setWithAccents] = useState(true);
  const [said, setSaid] = useState<Said>(null);
  const drop = choice.drop && hasDropFrame(project.rate);
  const asked = { ...choice, drop };
  const tell = (files: Outcome<readonly TimingFile[]>) => {
    if (!files.ok) return setSaid({ reason: files.reason });
    for (const { content, name } of files.value) saveBlob(content, name);
    setSaid({ files: files.value });
  };
  const give = (file: Outcome<TimingFile>) => tell(file.ok ? { ok: true, value: [file.value] } : file);
  return (
    <details className="border-line border-t pt-4">
      <summary className="cursor-pointer font-bold">The timing, for other software</summary>
      <div className="mt-2.5 space-y-2.5">
        <Row name="Begins on">
          <Choice
            label="Begins on"
            value={choice.atHour ? 'hour' : 'zero'}
            options={[
              { value: 'zero', label: '00:00:00:00' },
              { value: 'hour', label: '01:00:00:00' },
            ]}
            onChange={(value) => setChoice({ ...choice, atHour: value === 'hour' })}
          />
        </Row>
        {hasDropFrame(project.rate) && (
          <Row name="Timecode">
            <Choice
              label="Timecode"
              value={drop ? 'drop' : 'non'}
              options={[
                { value: 'non', label: 'Non-drop' },
                { value: 'drop', label: 'Drop-frame' },
              ]}
              onChange={(value) => setChoice({ ...choice, drop: value === 'drop' })}
            />
          </Row>
        )}
        <Row name="Points to">
          <Choice
            label="Points to"
            value={choice.pointsTo}
            options={[
              { value: 'films', label: 'A film a shot' },
              { value: 'sequences', label: 'Pictures a shot' },
            ]}
            onChange={(pointsTo) => setChoice({ ...choice, pointsTo })}
          />
        </Row>
        <Row name="With">
          <Choice
            label="With"
            value={choice.withSound ? 'sound' : 'picture'}
            options={[
              { value: 'sound', label: 'Picture and sound' },
              { value: 'picture', label: 'Picture alone' },
            ]}
            onChange={(value) => setChoice({ ...choice, withSound: value === 'sound' })}
          />
        </Row>
        <Row name="The reel">
          <div className="flex flex-wrap gap-1.5">
            <Button onClick={() => give(otioFile(project, asked))}>Timeline (OpenTimelineIO)</Button>
            <Button onClick={() => give(edlFile(project, asked))}>Edit list (EDL)</Button>
          </div>
        </Row>
        <Row name="Words">
          <div className="space-y-1.5">
            <Choice
              label="Words"
              value={withAccents ? 'both' : 'words'}
              options={[
                { value: 'both', label: 'Words and accents' },
                { value: 'words', label: 'Words alone' },
              ]}
              onChange={(value) => setWithAccents(value === 'both')}
            />
            <div className="flex flex-wrap gap-1.5">
              <Button onClick={() => give(captionsFile(project, 'srt', withAccents))}>SubRip</Button>
              <Button onClick={() => give(captionsFile(project, 'vtt', withAccents))}>WebVTT</Button>
            </div>
          </div>
        </Row>
        <SoundRow onSaid={tell} />
        <LayersRow onSaid={tell} />
        <Row name="The sheet">
          <div className="flex flex-wrap gap-1.5">
            <Button onClick={() => withSheetFiles(({ saveSheetCsv }) => saveSheetCsv())}>Open shot as CSV</Button>
            <Button onClick={() => withSheetFiles(({ saveDetailsCsv }) => saveDetailsCsv())}>Charts and sounds as CSV</Button>
          </div>
        </Row>
        <ContactRow onSaid={tell} />
        <Row name="Back again">
          <div>
            <TimingBack />
          </div>
        </Row>
        <div aria-live="polite" className="space-y-1 text-xs">
          {said && 'reason' in said && <p className="text-rust">{said.reason}</p>}
          {said &&
            'files' in said &&
            said.files.map(({ name, found }) => (
              <p key={name}>
                <span className="numbers break-all">{name}</span> <span className="text-moss">saved.</span> {found}
              </p>
            ))}
        </div>
      </div>
    </details>
  );
}
