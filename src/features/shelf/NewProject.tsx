'use client';
import { useRouter } from 'next/navigation';
import { type FormEvent, useState } from 'react';
import { checkSize, isEvenSize } from '@/core/sheet/size';
import { lengthSentence, parseLength } from '@/core/time/counts';
import { KNOWN_RATES, parseRate, rateFraction } from '@/core/time/rate';
import { createProject } from '@/features/project/api';
import { Button } from '@/ui/Button';
import { Choice } from '@/ui/Choice';
import { Dialog } from '@/ui/Dialog';
import { Field } from '@/ui/Field';

const SIZES = [
  { value: '1280x720', label: 'Wide 1280 × 720' },
  { value: '1920x1080', label: 'Wide 1920 × 1080' },
  { value: '3840x2160', label: 'Wide 3840 × 2160' },
  { value: '1080x1080', label: 'Square 1080' },
  { value: '1080x1920', label: 'Upright 1080 × 1920' },
  { value: 'own', label: 'Own size' },
] as const;
type SizeChoice = (typeof SIZES)[number]['value'];

/** Starting a project on purpose: size, rate, length and first number, with what each choice comes to. */
export function NewProject({ open, onOpenChange }: { open: boolean; onOpenChange: (open: boolean) => void }) {
  const router = useRouter();
  const [title, setTitle] = useState('');
  const [sizeChoice, setSizeChoice] = useState<SizeChoice>('1280x720');
  const [ownWidth, setOwnWidth] = useState('1600');
  const [ownHeight, setOwnHeight] = useState('900');
  const [rateText, setRateText] = useState('24');
  const [lengthText, setLengthText] = useState('4s');
  const [startText, setStartText] = useState('1');
  const [trouble, setTrouble] = useState<string | null>(null);
  const [busy, setBusy] = useState(false);

  const [width, height] =
    sizeChoice === 'own' ? [Number(ownWidth), Number(ownHeight)] : (sizeChoice.split('x').map(Number) as [number, number]);
  const size = checkSize(width, height);
  const rate = parseRate(rateText);
  const length = rate.ok ? parseLength(lengthText, rate.value) : null;
  const start = /^\d{1,6}$/.test(startText.trim()) ? Number(startText) : null;
  const ready = title.trim() !== '' && size.ok && rate.ok && length?.ok === true && start !== null;

  const submit = (event: FormEvent) => {
    event.preventDefault();
    if (!size.ok || !rate.ok || !length?.ok || start === null || title.trim() === '') return;
    setBusy(true);
    setTrouble(null);
    createProject({ title: title.trim(), size: size.value, rate: rate.value, frames: length.value, startFrame: start })
      .then(({ id }) => router.push(`/projects/${id}/draw`))
      .catch((error: unknown) => {
        setBusy(false);
        setTrouble(error instanceof Error ? error.message : 'The project could not be made.');
      });
  };

  return (
    <Dialog
      title="New project"
      about="Size and rate hold for every drawing in it, so choose them for where the film will be shown."
      open={open}
      onOpenChange={onOpenChange}
    >
      <form onSubmit={submit} className="mt-4 space-y-4">
        <Field label="Title" value={title} onChange={setTitle} maxLength={120} autoFocus required />
        <div className="space-y-1.5">
          <p className="text-soft text-xs">Picture size</p>
          <Choice label="Picture size" value={sizeChoice} options={SIZES} onChange={setSizeChoice} />
          {sizeChoice === 'own' && (
            <div className="grid grid-cols-2 gap-2">
              <Field label="Width in px" inputMode="numeric" value={ownWidth} onChange={setOwnWidth} />
              <Field label="Height in px" inputMode="numeric" value={ownHeight} onChange={setOwnHeight} />
            </div>
          )}
          {!size.ok && <p className="text-rust text-xs">{size.reason}</p>}
          {size.ok && !isEvenSize(size.value) && (
            <p className="text-rust text-xs">
              A side with an odd number of pixels rules out films: H.264 and VP9 here need even sides. Numbered pictures take any size.
            </p>
          )}
        </div>
        <div className="space-y-1.5">
          <p className="text-soft text-xs">Frames a second</p>
          <Choice
            label="Frames a second"
            value={rateText}
            options={KNOWN_RATES.map(({ name }) => ({ value: name, label: name }))}
            onChange={setRateText}
          />
          <Field
            label="or another rate, as 24000/1001"
            value={rateText}
            onChange={setRateText}
            said={rate.ok ? `exactly ${rateFraction(rate.value)}` : undefined}
            wrong={rate.ok ? undefined : rate.reason}
          />
        </div>
        <div className="grid grid-cols-2 gap-2">
          <Field
            label="Length of the first shot, as 96, 4s12 or 6+00"
            value={lengthText}
            onChange={setLengthText}
            said={length?.ok && rate.ok ? lengthSentence(length.value, rate.value) : undefined}
            wrong={length && !length.ok ? length.reason : undefined}
          />
          <Field
            label="Number of the first frame"
            inputMode="numeric"
            value={startText}
            onChange={setStartText}
            wrong={start === null ? 'Write a whole number, as 1, 0 or 1001.' : undefined}
          />
        </div>
        {trouble && (
          <p role="alert" className="text-rust">
            {trouble}
          </p>
        )}
        <div className="flex justify-end gap-2">
          <Button onClick={() => onOpenChange(false)}>Not now</Button>
          <Button kind="go" type="submit" disabled={!ready || busy}>
            {busy ? 'Making it …' : 'Start'}
          </Button>
        </div>
      </form>
    </Dialog>
  );
}
