'use client';
import { useRouter } from 'next/navigation';
import { type FormEvent, useRef, useState } from 'react';
import { lengthCounts, lengthSentence, parseLength } from '@/core/time/counts';
import { parseRate, rateFraction } from '@/core/time/rate';
import { CANCEL } from '@/core/words';
import { carryFiles } from '@/features/commands/bringFiles';
import { RateFields } from '@/features/format/RateFields';
import { type ChosenSize, chosenFrom, SizeFields, sizeChosen } from '@/features/format/SizeFields';
import type { Begun } from '@/features/shelf/begun';
import { createProject } from '@/features/sync/api';
import { Button } from '@/ui/Button';
import { Dialog } from '@/ui/Dialog';
import { Field } from '@/ui/Field';

type Props = {
  readonly open: boolean;
  readonly onOpenChange: (open: boolean) => void;
  /** What it begins with, when files were dropped. */
  readonly begun: Begun | null;
};

/** Starting a project on purpose: size, rate, length and first number, with what each choice comes to. */
export function NewProject({ open, onOpenChange, begun }: Props) {
  return (
    <Dialog
      title="New project"
      about="Size and rate hold for every drawing in it, so choose them for where the film will be shown."
      open={open}
      onOpenChange={onOpenChange}
    >
      <NewProjectForm begun={begun} onCancel={() => onOpenChange(false)} />
    </Dialog>
  );
}

const START_SIZE: ChosenSize = { choice: '1280x720', width: '1280', height: '720' };

function NewProjectForm({ begun, onCancel }: { begun: Begun | null; onCancel: () => void }) {
  const router = useRouter();
  const [title, setTitle] = useState(begun?.title ?? '');
  const [sizeText, setSizeText] = useState<ChosenSize>(begun?.size ? chosenFrom(begun.size) : START_SIZE);
  const [rateText, setRateText] = useState(begun?.rate ? rateFraction(begun.rate) : '24');
  const [lengthText, setLengthText] = useState(begun?.frames ? String(begun.frames) : '4s');
  const [startText, setStartText] = useState('1');
  const [isTitleAsked, setTitleAsked] = useState(false);
  const titleField = useRef<HTMLDivElement>(null);
  const [trouble, setTrouble] = useState<string | null>(null);
  const [busy, setBusy] = useState(false);

  const size = sizeChosen(sizeText);
  const rate = parseRate(rateText);
  const length = rate.ok ? parseLength(lengthText, rate.value) : null;
  const start = /^\d{1,6}$/.test(startText.trim()) ? Number(startText) : null;
  const ready = size.ok && rate.ok && length?.ok === true && start !== null;

  const submit = (event: FormEvent) => {
    event.preventDefault();
    if (!size.ok || !rate.ok || !length?.ok || start === null) return;
    if (title.trim() === '') {
      setTitleAsked(true);
      titleField.current?.querySelector('input')?.focus();
      return;
    }
    setBusy(true);
    setTrouble(null);
    createProject({ title: title.trim(), size: size.value, rate: rate.value, frames: length.value, firstFrameNumber: start })
      .then(({ id }) => {
        carryFiles(begun?.files ?? []);
        router.push(`/projects/${id}/plan`);
      })
      .catch((error: unknown) => {
        setBusy(false);
        setTrouble(error instanceof Error ? error.message : 'The project could not be made.');
      });
  };

  return (
    <form onSubmit={submit} noValidate className="mt-4 space-y-4">
      {begun && (
        <p className="rounded-lg bg-lime-wash px-3 py-2" data-testid="begun">
          {begun.says}. {begun.files.length === 1 ? 'It is' : 'They are'} brought in once the project is made.
        </p>
      )}
      <div ref={titleField}>
        <Field
          label="Title"
          value={title}
          onChange={setTitle}
          wrong={isTitleAsked && title.trim() === '' ? 'Give the project a title first.' : undefined}
          maxLength={120}
          autoFocus
          required
        />
      </div>
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
        <Button onClick={onCancel}>{CANCEL}</Button>
        <Button kind="go" type="submit" disabled={!ready || busy}>
          {busy ? 'Creating …' : 'Start'}
        </Button>
      </div>
    </form>
  );
}
