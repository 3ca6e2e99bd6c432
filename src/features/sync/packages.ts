import { type CheckedPackage, type PackageLine, packageLineSchema } from '@/contracts/package';
import { done, type Outcome, refused } from '@/core/outcome';
import { ask, refusalOf } from '@/features/sync/api';
import { linesOf } from '@/workers/client';

/* A project leaves as one file, and comes in as one: checked whole first, and brought in when the person says so. */

type Progress = (done: number, all: number) => void;

/** What of a project leaves as one file: all of it, with the changes it was made by or without, or its drawings alone. */
export type PackageKind = 'package' | 'package?journal=1' | 'drawings';

/** A project as one file; `onProgress` is told how many bytes there are of about how many. Rejects when it is stopped. */
export async function fetchPackage(
  projectId: string,
  kind: PackageKind,
  onProgress: Progress,
  stop: AbortSignal,
): Promise<{ file: Blob; fileName: string }> {
  const response = await ask(`/api/projects/${projectId}/${kind}`, { signal: stop, cache: 'no-store' });
  if (!response.ok || !response.body) throw await refusalOf(response);
  const about = Number(response.headers.get('lime-tick-bytes') ?? 0);
  let bytes = 0;
  const counted = response.body.pipeThrough(
    new TransformStream<Uint8Array<ArrayBuffer>, Uint8Array<ArrayBuffer>>({
      transform(chunk, controller) {
        bytes += chunk.byteLength;
        onProgress(bytes, Math.max(about, bytes));
        controller.enqueue(chunk);
      },
    }),
  );
  // A browser keeps what is this large on the disk.
  const file = await new Response(counted, { headers: { 'Content-Type': 'application/zip' } }).blob();
  const [, name = ''] = /filename\*=UTF-8''([^;]+)/.exec(response.headers.get('Content-Disposition') ?? '') ?? [];
  return { file, fileName: decodeURIComponent(name) || 'project.limetick' };
}

/** The last line of what a server tells, but for progress. */
async function lastLine(response: Response, onProgress: Progress): Promise<PackageLine> {
  if (!response.ok) throw await refusalOf(response);
  let last: PackageLine = { kind: 'refused', reason: 'The server stopped in the middle. Nothing was changed; bring it in again.' };
  for await (const told of linesOf<unknown>(response)) {
    const line = packageLineSchema.parse(told);
    if (line.kind === 'progress') onProgress(line.done, line.all);
    else last = line;
  }
  return last;
}

/** Sends a package to be checked whole; nothing is stored of it yet. Rejects when it is stopped. */
export async function checkPackage(file: File, onProgress: Progress, stop: AbortSignal): Promise<Outcome<CheckedPackage>> {
  const line = await lastLine(await ask('/api/packages', { method: 'POST', body: file, signal: stop }), onProgress);
  if (line.kind === 'checked') return done(line);
  return refused(line.kind === 'refused' ? line.reason : 'The server answered something else.');
}

/** Brings in a package that was checked. Resolves with the project's id. */
export async function takePackage(token: string, onProgress: Progress, stop: AbortSignal): Promise<Outcome<string>> {
  const line = await lastLine(await ask(`/api/packages/${token}`, { method: 'POST', signal: stop }), onProgress);
  if (line.kind === 'taken') return done(line.projectId);
  return refused(line.kind === 'refused' ? line.reason : 'The server answered something else.');
}

/** Lets go of a package that was checked. */
export async function dropPackage(token: string): Promise<void> {
  await ask(`/api/packages/${token}`, { method: 'DELETE' });
}
