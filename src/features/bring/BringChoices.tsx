'use client';
import type { ReactNode } from 'react';
import { readTimes } from '@/core/time/heldTimes';
import { CURRENT_FRAME, FIRST_FRAME, LEVEL_KIND_NAMES, SHOT_GROWS } from '@/core/words';
import { areNumbered, type Choices, missingNumbers, picturesOf, type ReadResult } from '@/features/bring/bringing';
import { inView, useProject } from '@/features/project/hooks';
import { useViewStore } from '@/features/project/viewStore';
import { Choice } from '@/ui/Choice';
import { Field } from '@/ui/Field';

function Row({ label, children }: { label: string; children: ReactNode }) {
  return (
    <div>
      <p className="mb-0.5 text-soft text-xs">{label}</p>
      {children}
    </div>
  );
}

/** What is settled once for all the pictures. */
export function BringChoices({
  reading,
  choices,
  change,
}: {
  reading: ReadResult;
  choices: Choices;
  change: (part: Partial<Choices>) => void;
}) {
  const { size } = useProject();
  const view = inView();
  const pictures = picturesOf(reading);
  const hasTimes = pictures.some((picture) => picture.delayMilliseconds !== null);
  const hasOtherSizes = pictures.some((picture) => picture.width !== size.width || picture.height !== size.height);
  const onReel = useViewStore((state) => state.onReel);
  const hasLayers = reading.good.some(({ taken }) => taken.isLayered);
  return (
    <div className="-m-1 w-74 shrink-0 space-y-1.5 overflow-y-auto p-1">
      <Row label="Onto">
        <Choice
          label="Onto which level"
          value={choices.onto}
          options={[
            ...(onReel ? [{ value: 'shot' as const, label: 'A new shot on the reel' }] : []),
            { value: 'new', label: 'A new level' },
            { value: 'level', label: view?.level?.name ?? 'This level', disabled: !view?.level || view.level.kind === 'still' },
          ]}
          onChange={(onto) => change({ onto })}
        />
      </Row>
      {choices.onto !== 'level' && (
        <Row label="Kind of level">
          <Choice
            label="Kind of level"
            value={choices.levelKind}
            options={[
              { value: 'animated', label: LEVEL_KIND_NAMES.animated },
              { value: 'still', label: LEVEL_KIND_NAMES.still, disabled: pictures.length > 1 },
              { value: 'guide', label: LEVEL_KIND_NAMES.guide },
            ]}
            onChange={(levelKind) => change({ levelKind })}
          />
        </Row>
      )}
      {choices.onto !== 'shot' && (
        <Row label="From">
          <Choice
            label="From which frame"
            value={choices.startsAt}
            options={[
              { value: 'first', label: FIRST_FRAME },
              { value: 'now', label: CURRENT_FRAME },
            ]}
            onChange={(startsAt) => change({ startsAt })}
          />
        </Row>
      )}
      <Row label="Time">
        <div className="flex items-center gap-2">
          <Choice
            label="Time of the pictures"
            value={choices.timing}
            options={[
              { value: 'each', label: 'One for all' },
              { value: 'own', label: 'Each its own', title: hasTimes ? undefined : 'These files say no times: give them by hand' },
            ]}
            onChange={(timing) => change({ timing })}
          />
        </div>
      </Row>
      {choices.timing === 'own' && (
        <Field
          label="Times by hand, one after another, - for none"
          placeholder="120 120 0.5s 12/100"
          value={choices.timesText}
          onChange={(timesText) => change({ timesText })}
          {...(readTimes(choices.timesText) === null
            ? { wrong: 'Write times as 120 (ms), 0.5s or 12/100, with spaces between.' }
            : { said: hasTimes ? 'The rest keep the times of their files.' : 'The rest are held for one frame.' })}
        />
      )}
      {choices.timing === 'each' && (
        <Field
          label="Frames for each picture"
          inputMode="numeric"
          value={String(choices.frames)}
          onChange={(text) => change({ frames: /^\d{1,7}$/.test(text.trim()) ? Number(text) : 0 })}
        />
      )}
      <Row label={hasLayers ? 'Order (layers: the lowest first)' : 'Order'}>
        <Choice
          label="Order"
          value={choices.order}
          options={[
            { value: 'asNamed', label: hasLayers ? 'Lowest first' : 'As numbered' },
            { value: 'reversed', label: 'Reversed' },
          ]}
          onChange={(order) => change({ order })}
        />
      </Row>
      {areNumbered(reading) && (
        <Row label="Numbers of the drawings">
          <Choice
            label="Numbers of the drawings"
            value={choices.numbers}
            options={[
              { value: 'counted', label: 'Counted on', title: 'The next free numbers, one after another' },
              { value: 'ofFiles', label: 'Those of the files' },
            ]}
            onChange={(numbers) => change({ numbers })}
          />
        </Row>
      )}
      {missingNumbers(reading).length > 0 && choices.timing === 'each' && (
        <Row label="Where files are missing">
          <Choice
            label="Where files are missing"
            value={choices.gaps}
            options={[
              { value: 'closed', label: 'Close up' },
              { value: 'held', label: 'Hold the one before', title: 'Held over the frames of those that are missing' },
            ]}
            onChange={(gaps) => change({ gaps })}
          />
        </Row>
      )}
      <Row label="Equal pictures">
        <Choice
          label="Equal pictures"
          value={choices.equal}
          options={[
            { value: 'each', label: 'Apart', title: 'Each picture is a drawing of its own' },
            { value: 'held', label: 'Held', title: 'In a row they are one drawing, held longer' },
            { value: 'shared', label: 'Shared', title: 'Wherever they show they are one drawing' },
          ]}
          onChange={(equal) => change({ equal })}
        />
      </Row>
      {hasOtherSizes && (
        <Row label="Pictures of another size">
          <div className="space-y-1">
            <Choice
              label="How pictures of another size are fitted"
              value={choices.laying}
              options={[
                { value: 'asIs', label: 'As they are' },
                { value: 'fit', label: 'Fit' },
                { value: 'fill', label: 'Fill' },
              ]}
              onChange={(laying) => change({ laying })}
            />
            <Choice
              label="Aligned to"
              value={choices.anchor}
              options={[
                { value: 'middle', label: 'Middle' },
                { value: 'corner', label: 'Top left corner' },
              ]}
              onChange={(anchor) => change({ anchor })}
            />
          </div>
        </Row>
      )}
      {pictures.some((picture) => picture.hasTransparency) && (
        <Row label="Half-transparent colours in the files">
          <Choice
            label="Half-transparent colours"
            value={choices.alpha}
            options={[
              { value: 'straight', label: 'Straight', title: 'Colours are written on their own, as PNG has it' },
              { value: 'premultiplied', label: 'Premultiplied', title: 'Colours are darkened by their transparency already' },
            ]}
            onChange={(alpha) => change({ alpha })}
          />
        </Row>
      )}
      <label className="flex cursor-pointer items-center gap-2 text-xs">
        <input type="checkbox" checked={choices.grows} onChange={(event) => change({ grows: event.target.checked })} />
        {SHOT_GROWS}
      </label>
    </div>
  );
}
