import { inOne } from '@/core/bytes';
import type { FormatOptions } from '@/core/output/format';
import { digestOfBytes, fingerprintOf } from '@/core/raster/digest';
import type { RenderPlan } from '@/core/render/renderPlan';
import type { Ground } from '@/workers/render/compositor';

/*
 * Picture files that are finished are kept beside the job in the browser's private folder until it is over, each with what its
 * picture was rendered as. A job whose page was left goes on with them instead of rendering and packing them once more. A file
 * is known by all that makes it what it is, so that one of another drawing, size, finish or format is never taken for it.
 */

const FOLDER = 'handover-pictures';
const FILE = 'finished';
const HEAD_BYTES = 4;
/** Room that is left to what was asked for, and how often it is looked at. */
const LEAST_ROOM_BYTES = 1024 * 1024 * 1024;
const PUTS_A_LOOK = 16;

/** What a picture was rendered as; see `MeantNotes`. */
export type MeantNote = { readonly fingerprint: string } | { readonly signature: Uint8Array };

/** A finished picture file and what its picture was rendered as. */
export type KeptPicture = { readonly bytes: Uint8Array; readonly note: MeantNote };

/** What stands before each finished picture: its name, what follows it, and how both are known to be whole. */
type Head = {
  readonly name: string;
  readonly fingerprint: string | null;
  readonly signatureBytes: number;
  readonly pictureBytes: number;
  readonly check: string;
};
type Place = { readonly head: Head; readonly start: number };

const allFolders = async (): Promise<FileSystemDirectoryHandle> =>
  (await navigator.storage.getDirectory()).getDirectoryHandle(FOLDER, { create: true });

/** Bytes at a place of a file; fewer where it ends before. */
function bytesAt(file: FileSystemSyncAccessHandle, from: number, bytes: number): Uint8Array {
  const room = new Uint8Array(Math.max(0, Math.min(bytes, file.getSize() - from)));
  file.read(room, { at: from });
  return room;
}

function headAt(file: FileSystemSyncAccessHandle, at: number): { readonly head: Head; readonly end: number } | null {
  const length = bytesAt(file, at, HEAD_BYTES);
  if (length.byteLength < HEAD_BYTES) return null;
  const headBytes = new DataView(length.buffer).getUint32(0);
  try {
    const head = JSON.parse(new TextDecoder().decode(bytesAt(file, at + HEAD_BYTES, headBytes))) as Head;
    return { head, end: at + HEAD_BYTES + headBytes };
  } catch {
    // Where a page was left in the middle of it, no more follows.
    return null;
  }
}

/** The finished pictures of one job, one after another in a file of their own. */
export class KeptPictures {
  private puts = 0;
  private hasRoom = true;
  private readonly places = new Map<string, Place>();
  private end = 0;

  private constructor(
    private readonly jobId: string,
    private readonly file: FileSystemSyncAccessHandle,
  ) {
    for (;;) {
      const found = headAt(file, this.end);
      const end = found ? found.end + found.head.signatureBytes + found.head.pictureBytes : Number.POSITIVE_INFINITY;
      if (!found || end > file.getSize()) return;
      this.places.set(found.head.name, { head: found.head, start: found.end });
      this.end = end;
    }
  }

  /** Opens what is kept of a job; null where this browser keeps nothing. */
  static async open(jobId: string): Promise<KeptPictures | null> {
    try {
      const folder = await (await allFolders()).getDirectoryHandle(jobId, { create: true });
      const handle = await folder.getFileHandle(FILE, { create: true });
      return new KeptPictures(jobId, await handle.createSyncAccessHandle());
    } catch {
      return null;
    }
  }

  /** A finished picture; null where there is none of that name, or not the whole of it. */
  async get(name: string): Promise<KeptPicture | null> {
    const place = this.places.get(name);
    if (!place) return null;
    const { head, start } = place;
    const all = bytesAt(this.file, start, head.signatureBytes + head.pictureBytes);
    if ((await fingerprintOf(all)) !== head.check) return null;
    const note = head.fingerprint === null ? { signature: all.slice(0, head.signatureBytes) } : { fingerprint: head.fingerprint };
    return { bytes: all.slice(head.signatureBytes), note };
  }

  /** The files that are asked for need the room first. */
  private async lookForRoom(): Promise<void> {
    if (this.puts++ % PUTS_A_LOOK !== 0) return;
    const { quota, usage } = await navigator.storage.estimate().catch((): StorageEstimate => ({}));
    this.hasRoom = quota === undefined || usage === undefined || quota - usage > LEAST_ROOM_BYTES;
  }

  /** Keeps a finished picture; where there is little room left, it is not kept. */
  async put(name: string, { bytes, note }: KeptPicture): Promise<void> {
    await this.lookForRoom();
    if (!this.hasRoom || this.places.has(name)) return;
    const signature = 'signature' in note ? note.signature : new Uint8Array(0);
    const all = inOne([signature, bytes]);
    const head: Head = {
      name,
      fingerprint: 'fingerprint' in note ? note.fingerprint : null,
      signatureBytes: signature.byteLength,
      pictureBytes: bytes.byteLength,
      check: await fingerprintOf(all),
    };
    const headBytes = new TextEncoder().encode(JSON.stringify(head));
    const length = new Uint8Array(HEAD_BYTES);
    new DataView(length.buffer).setUint32(0, headBytes.byteLength);
    const record = inOne([length, headBytes, all]);
    try {
      this.file.write(record as Uint8Array<ArrayBuffer>, { at: this.end });
      this.places.set(name, { head, start: this.end + HEAD_BYTES + headBytes.byteLength });
      this.end += record.byteLength;
    } catch {
      // There is no more room: what was asked for goes on without.
      this.hasRoom = false;
    }
  }

  /** Lets go of all of them. */
  async clear(): Promise<void> {
    this.file.close();
    await (await allFolders()).removeEntry(this.jobId, { recursive: true }).catch(() => undefined);
  }
}

/** The names finished pictures go by: one for each stack of a plan, in their order. */
export function keptNames(plan: RenderPlan, ground: Ground, formatId: string, options: FormatOptions): readonly (() => Promise<string>)[] {
  const { size, composedSize, finish } = plan;
  const shared = JSON.stringify({ version: 1, size, composedSize, finish, ground, formatId, options });
  return plan.stacks.map(
    ({ key }) =>
      () =>
        digestOfBytes(new TextEncoder().encode(`${key}\n${shared}`)),
  );
}
