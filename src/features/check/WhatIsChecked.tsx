'use client';
import { SlidersHorizontal } from 'lucide-react';
import { Popover } from 'radix-ui';
import { DESTINATIONS, destinationOf } from '@/core/check/destinations';
import { type ColourRange, MOST_NEAR_PER_MILLE, MOST_STILL_FRAMES } from '@/core/document/checks';
import { holdColoursStep } from '@/core/finish/finishEdits';
import { VIDEO_RANGES } from '@/core/raster/range';
import { plural } from '@/core/time/counts';
import { secondsText } from '@/core/time/seconds';
import { usePlayerStore } from '@/features/clock/playStore';
import { useOwnDestinations } from '@/features/path/ownDestinations';
import { useProject } from '@/features/project/hooks';
import { make } from '@/features/sync/session';
import { CommitField } from '@/ui/Field';
import { Select } from '@/ui/Select';

const keyOf = (range: ColourRange | null) => (range ? `${range.from}-${range.to}` : 'none');
const RANGE_OPTIONS = VIDEO_RANGES.map(({ range, name }) => ({ value: keyOf(range), label: name }));
const rangeOf = (key: string) => VIDEO_RANGES.find(({ range }) => keyOf(range) === key)?.range ?? null;

/** Where the film is to go, and how closely the checks look. */
export function WhatIsChecked() {
  const project = useProject();
  const { checks, rate } = project;
  const marked = usePlayerStore((state) => state.marked);
  const own = useOwnDestinations((state) => state.own);
  const destination = destinationOf(checks.destination, own);
  const holding = project.finish.find((effect) => effect.kind === 'holdColours');
  const held = holding?.kind === 'holdColours' ? holding.range : null;
  const holdColours = (range: ColourRange | null) => {
    if (range) make(holdColoursStep(project, range));
    else if (holding) make({ type: 'setEffect', effectId: holding.id, effect: null, index: 0 });
  };
  const whole = (text: string, most: number, take: (value: number) => void) => {
    const value = Number(text);
    if (text.trim() !== '' && Number.isInteger(value) && value >= 0 && value <= most) take(value);
  };
  return (
    <Popover.Root>
      <Popover.Trigger
        aria-label="What is checked"
        className="inline-flex min-h-7 items-center gap-1.5 rounded-lg border border-line bg-sunk px-2 font-semibold text-xs hover:border-edge"
      >
        <SlidersHorizontal size={13} /> {destination?.name ?? 'No destination'}
      </Popover.Trigger>
      <Popover.Portal>
        <Popover.Content align="end" sideOffset={6} className="panel z-50 w-80 space-y-3 p-4 shadow-xl">
          <Select
            label="It goes to"
            value={checks.destination ?? ''}
            options={[
              { value: '', label: 'not decided yet' },
              ...[...DESTINATIONS, ...own].map(({ id, name }) => ({ value: id, label: name })),
            ]}
            onChange={(id) => make({ type: 'setChecks', change: { destination: id === '' ? null : id } })}
          />
          <p className="text-2xs text-soft">
            Stand-ins of our own with limits like many of their kind: sizes, rates, length, colours. Yours are made on the counting desk,
            under Rules.
          </p>
          <CommitField
            label={`Reported when nothing moves for more than so many frames (${checks.stillFrames === 0 ? 'never' : `${secondsText(checks.stillFrames, rate)} s`}); 0 is never`}
            value={String(checks.stillFrames)}
            maxLength={6}
            onCommit={(text) => whole(text, MOST_STILL_FRAMES, (stillFrames) => make({ type: 'setChecks', change: { stillFrames } }))}
          />
          <CommitField
            label="Two pictures are nearly the same when at most so many thousandths of what is drawn differ; 0 finds exact repeats alone"
            value={String(checks.nearPerMille)}
            maxLength={3}
            onCommit={(text) => whole(text, MOST_NEAR_PER_MILLE, (nearPerMille) => make({ type: 'setChecks', change: { nearPerMille } }))}
          />
          <Select
            label="Marked on the still picture"
            value={keyOf(marked)}
            options={[
              { value: 'none', label: 'no colours' },
              ...RANGE_OPTIONS.map(({ value, label }) => ({ value, label: `outside ${label}` })),
            ]}
            onChange={(key) => usePlayerStore.setState({ marked: rangeOf(key) })}
          />
          <Select
            label="Colours in what is handed over"
            value={keyOf(held)}
            options={[
              { value: 'none', label: 'as they are drawn' },
              ...RANGE_OPTIONS.map(({ value, label }) => ({ value, label: `held within ${label}` })),
            ]}
            onChange={(key) => holdColours(rangeOf(key))}
          />
          <p className="text-2xs text-soft">
            {plural(checks.kept.length, 'finding')} kept as intended in this project. All of this belongs to the project, but for what is
            marked.
          </p>
        </Popover.Content>
      </Popover.Portal>
    </Popover.Root>
  );
}
