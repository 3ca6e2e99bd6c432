'use client';
import { type FormEvent, useId, useState } from 'react';
import type { Project } from '@/core/document/model';
import type { Step } from '@/core/edit/step';
import { applyStep } from '@/core/edit/table';
import { changedColumns } from '@/core/sheet/changes';
import { CANCEL } from '@/core/words';
import { type Answers, type Ask, type AskField, useAskStore } from '@/features/commands/ask';
import { take } from '@/features/project/editContext';
import { inView } from '@/features/project/hooks';
import { Button } from '@/ui/Button';
import { Choice } from '@/ui/Choice';
import { Dialog } from '@/ui/Dialog';
import { Field } from '@/ui/Field';
import { Later, part } from '@/ui/later';

/** Few questions have a list: it comes with what comes later. The rest is here at once, since people type on as soon as they have asked. */
const checklist = part(async () => (await import('@/ui/Checklist')).Checklist);

function AskedField({
  field,
  value,
  onChange,
  first,
}: {
  field: AskField;
  value: string;
  onChange: (value: string) => void;
  first: boolean;
}) {
  const id = useId();
  if (field.options)
    return (
      <div className="space-y-1">
        <span className="text-soft text-xs">{field.label}</span>
        <Choice label={field.label} value={value} options={field.options} onChange={onChange} />
      </div>
    );
  if (field.lines)
    return (
      <div className="flex flex-col gap-0.5">
        <label htmlFor={id} className="text-soft text-xs">
          {field.label}
        </label>
        <textarea
          id={id}
          rows={field.lines}
          value={value}
          onChange={(event) => onChange(event.target.value)}
          className="numbers w-full rounded-lg border border-line bg-paper px-2.5 py-1.5 text-xs hover:border-edge"
        />
      </div>
    );
  return <Field label={field.label} value={value} onChange={onChange} autoFocus={first} onFocus={(event) => event.target.select()} />;
}

/** The columns an edit would change in the open shot, before and after. */
function Changes({ project, shotId, step }: { project: Project; shotId: string; step: Step }) {
  const after = applyStep(project, step);
  const [old, now] = [project, after.ok ? after.value : project].map((each) => each.shots.find((shot) => shot.id === shotId));
  const changed = old && now ? changedColumns(old, now) : [];
  if (!after.ok) return <p className="text-rust">{after.reason}</p>;
  return (
    <ul className="space-y-1.5">
      {changed.slice(0, 4).map((column) => (
        <li key={column.levelName}>
          <span className="font-semibold text-xs">{column.levelName}</span>
          <p className="numbers break-words text-2xs text-soft">{column.before}</p>
          <p className="numbers break-words text-2xs">→ {column.after}</p>
        </li>
      ))}
      {changed.length > 4 && <li className="text-soft text-xs">and {changed.length - 4} levels more</li>}
    </ul>
  );
}

function Asking({ asked, onClose }: { asked: Ask; onClose: () => void }) {
  const [answers, setAnswers] = useState<Answers>(() => Object.fromEntries(asked.fields.map((field) => [field.id, field.start])));
  const [left, setLeft] = useState<ReadonlySet<string>>(new Set());
  const view = inView();
  const isTaken = (id: string) => !left.has(id);
  const parts = asked.parts?.(answers);
  const edit = asked.read(answers, isTaken);
  const submit = (event: FormEvent) => {
    event.preventDefault();
    const now = asked.read(answers, isTaken);
    if (!now.ok) return;
    const { step, says } = now.value;
    if (step && !take({ ok: true, value: { step, says } })) return;
    asked.done?.(answers);
    onClose();
  };
  return (
    <form
      onSubmit={submit}
      onKeyDown={(event) => {
        // Enter does it from any choice: a choice is made by Space and the arrow keys, and text of several lines keeps its Enter.
        const isChoice = event.target instanceof HTMLButtonElement && event.target.role === 'radio';
        if (event.key === 'Enter' && isChoice) submit(event);
      }}
      className="mt-3 space-y-3"
    >
      <div className="grid grid-cols-2 gap-3">
        {asked.fields.map((field, index) => (
          <div key={field.id} className={field.narrow ? '' : 'col-span-2'}>
            <AskedField
              field={field}
              first={index === 0}
              value={answers[field.id] ?? ''}
              onChange={(value) => setAnswers((before) => ({ ...before, [field.id]: value }))}
            />
          </div>
        ))}
      </div>
      {parts?.ok && parts.value.length > 0 && (
        <Later of={checklist} props={{ label: 'What differs', items: parts.value, left, onLeft: setLeft }} />
      )}
      <output className="block min-h-16 rounded-lg bg-sunk px-3 py-2" aria-label="What it will do">
        <p className={edit.ok ? 'font-semibold' : 'text-rust'}>{edit.ok ? edit.value.says : edit.reason}</p>
        {edit.ok && edit.value.step && view && <Changes project={view.project} shotId={view.shot.id} step={edit.value.step} />}
      </output>
      <div className="flex justify-end gap-2">
        <Button kind="quiet" onClick={onClose}>
          {CANCEL}
        </Button>
        <Button kind="go" type="submit" disabled={!edit.ok}>
          {asked.confirm}
        </Button>
      </div>
    </form>
  );
}

/** Asks what an edit has to be told, and shows before it is done what it will do. */
export function AskDialog() {
  const asked = useAskStore((state) => state.asked);
  const close = () => useAskStore.setState({ asked: null });
  return (
    <Dialog title={asked?.title ?? ''} about={asked?.about ?? ''} open={asked !== null} onOpenChange={(open) => !open && close()}>
      {asked && <Asking key={asked.title} asked={asked} onClose={close} />}
    </Dialog>
  );
}
