'use client';
import { useState } from 'react';
import type { StoreState } from '@/contracts/keep';
import { bytesText } from '@/core/bytes';
import { plural } from '@/core/time/counts';
import { Button } from '@/ui/Button';

/** How the program is, in lines that hold nothing of a film but its title and size. */
function reportOf(state: StoreState): string {
  const { versions, database, disk, backups } = state;
  return [
    `Lime Tick ${versions.program}, documents of form ${versions.document}, Node ${versions.node}, ${versions.system}`,
    `Browser: ${navigator.userAgent}`,
    `Database: ${database.kind === 'embedded' ? 'embedded' : 'server'}, PostgreSQL ${database.version}, ${bytesText(database.sizeBytes)}`,
    `In: ${state.place}`,
    ...(disk ? [`Disk: ${bytesText(disk.freeBytes)} free of ${bytesText(disk.totalBytes)}`] : []),
    `Running since ${state.startedAt}, with ${bytesText(state.memoryBytes)} of memory`,
    `Encoder: ${state.encoder}`,
    ...(backups ? [`Backups: ${backups.made.map(({ madeAt }) => madeAt).join(', ') || 'none'}`] : []),
    ...state.projects.map(
      ({ title, bytes, watchers }) => `Project: ${title}, ${bytesText(bytes)}${watchers > 0 ? `, open in ${watchers}` : ''}`,
    ),
    ...state.troubles.map(({ at, words, reason }) => `${at} ${words}${reason ? `: ${reason}` : ''}`),
  ].join('\n');
}

/** The program's health: versions, what is open, and the last troubles; all of it copied with one press. */
export function HealthPanel({ state }: { state: StoreState }) {
  const { versions, database, troubles } = state;
  const [copied, setCopied] = useState<'no' | 'yes' | 'failed'>('no');
  const open = state.projects.filter(({ watchers }) => watchers > 0);
  const copy = () =>
    void navigator.clipboard.writeText(reportOf(state)).then(
      () => setCopied('yes'),
      () => setCopied('failed'),
    );
  return (
    <section className="panel p-4" aria-labelledby="health">
      <div className="flex items-start gap-3">
        <h2 id="health" className="flex-1 font-bold font-head text-lg">
          Health
        </h2>
        <Button onClick={copy}>{copied === 'yes' ? 'Copied' : 'Copy all of it for a report'}</Button>
      </div>
      {copied === 'failed' && (
        <textarea
          readOnly
          aria-label="The report"
          value={reportOf(state)}
          rows={8}
          className="mt-2 w-full rounded-lg border border-line bg-paper p-2 text-xs"
        />
      )}
      <dl className="mt-2 grid grid-cols-[max-content_minmax(0,1fr)] gap-x-4 gap-y-1 text-sm">
        <dt className="text-soft">Lime Tick</dt>
        <dd className="numbers">
          {versions.program}, documents of form {versions.document}
        </dd>
        <dt className="text-soft">Runs on</dt>
        <dd className="numbers">
          Node {versions.node}, {versions.system}
        </dd>
        <dt className="text-soft">Database</dt>
        <dd className="numbers">
          PostgreSQL {database.version}, {database.kind === 'embedded' ? 'embedded' : 'on a server'}
        </dd>
        <dt className="text-soft">Since</dt>
        <dd className="numbers">
          {new Date(state.startedAt).toLocaleString(undefined, { dateStyle: 'medium', timeStyle: 'short' })}, with{' '}
          {bytesText(state.memoryBytes)} of memory
        </dd>
        <dt className="text-soft">Outside encoder</dt>
        <dd className="numbers">{state.encoder}</dd>
        <dt className="text-soft">Open now</dt>
        <dd>
          {open.length === 0 ? 'no project' : open.map(({ title, watchers }) => `${title} (${plural(watchers, 'window')})`).join(', ')}
        </dd>
      </dl>
      <h3 className="mt-4 font-semibold text-sm">Last troubles of the server</h3>
      {troubles.length === 0 ? (
        <p className="text-sm">None since it was started.</p>
      ) : (
        <ul className="mt-1 max-h-48 space-y-1 overflow-y-auto text-xs">
          {troubles.map(({ id, at, words, reason }) => (
            <li key={id}>
              <span className="numbers text-soft">{new Date(at).toLocaleTimeString()}</span> {words}
              {reason && <span className="text-soft">: {reason}</span>}
            </li>
          ))}
        </ul>
      )}
    </section>
  );
}
