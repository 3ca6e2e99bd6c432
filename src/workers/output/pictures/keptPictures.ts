import type { FormatOptions } from '@/core/output/format';
import { digestOfBytes } from '@/core/raster/digest';
import type { RenderPlan } from '@/core/render/renderPlan';
import type { Ground } from '@/workers/render/compositor';

/*
 * Picture files that are finished are kept beside the job in the browser's private folder until it is over, each with what its
 * picture was rendered as. A job whose page was left goes on with them instead of rendering and packing them once more. A file
 * is known by all that makes it what it is, so that one of another drawing, size, finish or format is never taken for it.
 */

const FOLDER = 'handover-pictures';
const HEAD_BYTES = 4;
/** Room that is left to what was asked for, and how often it is looked at. */
const LEAST_ROOM_BYTES = 1024 * 1024 * 1024;
const PUTS_A_LOOK = 16;

/** What a picture was rendered as; see `MeantNotes`. */
export type MeantNote = { readonly fingerprint: string } | { readonly signature: Uint8Array };

/** A finished picture file and what its picture was rendered as. */
export type KeptPicture = { readonly bytes: Uint8Array; readonly note: MeantNote };

type Head = { readonly fingerprint: string | null; readonly signatureBytes: number };

const folderOf = async (jobId: string, create: boolean): Promise<FileSystemDirectoryHandle> => {
  const all = await (await navigator.storage.getDirectory()).getDirectoryHandle(FOLDER, { create });
  return all.getDirectoryHandle(jobId, { create });
};

/** The finished pictures of one job. */
export class KeptPictures {
  private puts = 0;
  private hasRoom = true;

  private constructor(
    private readonly folder: FileSystemDirectoryHandle,
    private readonly jobId: string,
    private readonly names: Set<string>,
  ) {}

  static async open(jobId: string): Promise<KeptPictures> {
    const folder = await folderOf(jobId, true);
    const names = new Set<string>();
    for await (const name of folder.keys()) names.add(name);
    return new KeptPictures(folder, jobId, names);
  }

  /** A finished picture; null where there is none of that name, or what is there was not finished. */
  async get(name: string): Promise<KeptPicture | null> {
    if (!this.names.has(name)) return null;
    try {
      const file = new Uint8Array(await (await (await this.folder.getFileHandle(name)).getFile()).arrayBuffer());
      const headBytes = new DataView(file.buffer).getUint32(0);
      const head = JSON.parse(new TextDecoder().decode(file.subarray(HEAD_BYTES, HEAD_BYTES + headBytes))) as Head;
      const start = HEAD_BYTES + headBytes;
      const signature = file.slice(start, start + head.signatureBytes);
      const note = head.fingerprint === null ? { signature } : { fingerprint: head.fingerprint };
      return { bytes: file.slice(start + head.signatureBytes), note };
    } catch {
      // Whatever keeps it from being read, it is made once more.
      return null;
    }
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
    if (!this.hasRoom) return;
    const signature = 'signature' in note ? note.signature : new Uint8Array(0);
    const head: Head = { fingerprint: 'fingerprint' in note ? note.fingerprint : null, signatureBytes: signature.byteLength };
    const headBytes = new TextEncoder().encode(JSON.stringify(head));
    const length = new Uint8Array(HEAD_BYTES);
    new DataView(length.buffer).setUint32(0, headBytes.byteLength);
    try {
      // What is written lies there under its name only once it is whole.
      const stream = await (await this.folder.getFileHandle(name, { create: true })).createWritable();
      await stream.write(new Blob([length, headBytes, signature as Uint8Array<ArrayBuffer>, bytes as Uint8Array<ArrayBuffer>]));
      await stream.close();
      this.names.add(name);
    } catch {
      await this.folder.removeEntry(name).catch(() => undefined);
    }
  }

  /** Lets go of all of them. */
  async clear(): Promise<void> {
    const all = await (await navigator.storage.getDirectory()).getDirectoryHandle(FOLDER, { create: true });
    await all.removeEntry(this.jobId, { recursive: true }).catch(() => undefined);
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
