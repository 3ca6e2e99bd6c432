'use client';
import { formatDistanceToNow } from 'date-fns';
import { useState } from 'react';
import type { BackupSettings } from '@/contracts/backups';
import type { StoreState } from '@/contracts/keep';
import { bytesText } from '@/core/bytes';
import { plural } from '@/core/time/counts';
import { reasonOf } from '@/features/sync/reasonOf';
import { backUpNow, settleBackups } from '@/features/sync/shelfApi';
import { Button } from '@/ui/Button';
import { CommitField } from '@/ui/Field';

const OFTEN = [
  { hours: 1, label: 'every hour' },
  { hours: 6, label: 'every 6 hours' },
  { hours: 24, label: 'every day' },
  { hours: 168, label: 'every week' },
] as const;

/** Backups: how often, where, how many, those there are, and one now. */
export function BackupPanel({ state: { backups }, onChanged }: { state: StoreState; onChanged: () => Promise<void> }) {
  const [isBusy, setBusy] = useState(false);
  const [trouble, setTrouble] = useState<string | null>(null);
  const act = (work: Promise<unknown>) => {
    setTrouble(null);
    setBusy(true);
    work.then(onChanged, (error: unknown) => setTrouble(reasonOf(error))).finally(() => setBusy(false));
  };
  if (!backups)
    return (
      <section className="panel p-4" aria-labelledby="backups">
        <h2 id="backups" className="font-bold font-head text-lg">
          Backups
        </h2>
        <p className="mt-1 text-sm">The PostgreSQL server keeps its own; docs/team.md says how to have it make them every day.</p>
      </section>
    );
  const { settings, folder, made, isMaking } = backups;
  const settle = (change: Partial<BackupSettings>) => act(settleBackups({ ...settings, ...change }));
  const [last] = made;
  return (
    <section className="panel p-4" aria-labelledby="backups">
      <div className="flex items-start gap-3">
        <h2 id="backups" className="flex-1 font-bold font-head text-lg">
          Backups
        </h2>
        <Button kind="go" disabled={isBusy || isMaking} onClick={() => act(backUpNow())}>
          {isBusy || isMaking ? 'Copying and reading back …' : 'Make one now'}
        </Button>
      </div>
      <p className={`text-sm ${last || !settings.isOn ? '' : 'text-rust'}`}>
        {last
          ? `The last one is of ${new Date(last.madeAt).toLocaleString(undefined, { dateStyle: 'medium', timeStyle: 'short' })} (${formatDistanceToNow(new Date(last.madeAt), { addSuffix: true })}); it was opened and read back: ${plural(last.projects, 'project')}.`
          : 'There is none yet.'}
      </p>
      <div className="mt-3 flex flex-wrap items-center gap-x-4 gap-y-2 text-sm">
        <label className="flex min-h-7 items-center gap-2">
          <input
            type="checkbox"
            className="size-4 accent-ink"
            checked={settings.isOn}
            disabled={isBusy}
            onChange={(event) => settle({ isOn: event.target.checked })}
          />
          Made by themselves
        </label>
        <select
          aria-label="How often"
          value={settings.everyHours}
          disabled={isBusy || !settings.isOn}
          onChange={(event) => settle({ everyHours: Number(event.target.value) })}
          className="min-h-8 rounded-lg border border-line bg-paper px-2 hover:border-edge"
        >
          {OFTEN.map(({ hours, label }) => (
            <option key={hours} value={hours}>
              {label}
            </option>
          ))}
          {!OFTEN.some(({ hours }) => hours === settings.everyHours) && (
            <option value={settings.everyHours}>every {settings.everyHours} hours</option>
          )}
        </select>
      </div>
      <div className="mt-2 grid grid-cols-[5.5rem_minmax(0,1fr)] gap-3">
        <CommitField
          label="Kept"
          inputMode="numeric"
          value={String(settings.kept)}
          onCommit={(text) => /^\d{1,3}$/.test(text.trim()) && settle({ kept: Number(text) })}
        />
        <CommitField
          label="In the folder (another disk is safer)"
          value={folder}
          onCommit={(text) => text.trim() !== folder && settle({ folder: text.trim() === '' ? null : text.trim() })}
        />
      </div>
      {trouble && (
        <p role="alert" className="mt-2 text-rust text-sm">
          {trouble}
        </p>
      )}
      <ul className="mt-3 max-h-40 space-y-1 overflow-y-auto text-xs" aria-label="Backups">
        {made.map((backup) => (
          <li key={backup.folder} className="numbers flex gap-3">
            <span className="min-w-0 flex-1 truncate" title={backup.folder}>
              {new Date(backup.madeAt).toLocaleString(undefined, { dateStyle: 'medium', timeStyle: 'short' })}
            </span>
            <span>{plural(backup.projects, 'project')}</span>
            <span className="w-20 text-right">{bytesText(backup.sizeBytes)}</span>
          </li>
        ))}
      </ul>
      <p className="mt-3 text-soft text-xs">
        To go on from one, on this machine or a new one: <code className="numbers">npm run restore -- {last?.folder ?? folder}</code>, then
        start Lime Tick. What was there before is kept beside it.
      </p>
    </section>
  );
}
