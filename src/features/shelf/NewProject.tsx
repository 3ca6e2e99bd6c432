'use client';
import { useRouter } from 'next/navigation';
import { type FormEvent, useState } from 'react';
import { lengthCounts, lengthSentence, parseLength } from '@/core/time/counts';
import { parseRate } from '@/core/time/rate';
import { CANCEL } from '@/core/words';
import { RateFields } from '@/features/format/RateFields';
import { type ChosenSize, SizeFields, sizeChosen } from '@/features/format/SizeFields';
import { createProject } from '@/features/sync/api';
import { Button } from '@/ui/Button';
import { Dialog } from '@/ui/Dialog';
import { Field } from '@/ui/Field';

/** Starting a project on purpose: size, rate, length and first number, with what each choice comes to. */
export function NewProject({ open, onOpenChange }: { open: boolean; onOpenChange: (open: boolean) => void }) {
  const router = useRouter();
  const [title, setTitle] = useState('');
  const [sizeText, setSizeText] = useState<ChosenSize>({ choice: '1280x720', width: '1280', height: '720' });
  const [rateText, setRateText] = useState('24');
  const [lengthText, setLengthText] = useState('4s');
  const [startText, setStartText] = useState('1');
  const [trouble, setTrouble] = useState<string | null>(null);
  const [busy, setBusy] = useState(false);

  const size = sizeChosen(sizeText);
  const rate = parseRate(rateText);
  const length = rate.ok ? parseLength(lengthText, rate.value) : null;
  const start = /^\d{1,6}$/.test(startText.trim()) ? Number(startText) : null;
  const ready = title.trim() !== '' && size.ok && rate.ok && length?.ok === true && start !== null;

  const submit = (event: FormEvent) => {
    event.preventDefault();
    if (!size.ok || !rate.ok || !length?.ok || start === null || title.trim() === '') return;
    setBusy(true);
    setTrouble(null);
    createProject({ title: title.trim(), size: size.value, rate: rate.value, frames: length.value, firstFrameNumber: start })
      .then(({ id }) => router.push(`/projects/${id}/plan`))
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
        <SizeFields chosen={sizeText} onChange={setSizeText} />
        <RateFields text={rateText} onChange={setRateText} />
        <div className="grid grid-cols-2 gap-2">
          <Field
            label="Length of the first shot, as 96, 4s, 4s12, 00:00:04:00 or 6+00"
            value={lengthText}
            onChange={setLengthText}
            said={
              length?.ok && rate.ok
                ? `${lengthSentence(length.value, rate.value)} · ${lengthCounts(length.value, rate.value).timecode} · ${lengthCounts(length.value, rate.value).footage} ft`
                : undefined
            }
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
          <Button onClick={() => onOpenChange(false)}>{CANCEL}</Button>
          <Button kind="go" type="submit" disabled={!ready || busy}>
            {busy ? 'Creating …' : 'Start'}
          </Button>
        </div>
      </form>
    </Dialog>
  );
}
