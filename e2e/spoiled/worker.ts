import { FORMATS } from '@/workers/output/formats/list';
import { runJob } from '@/workers/output/job';
import { handoverOrderSchema } from '@/workers/protocol';

/* The program's own job on a machine where something goes wrong in the middle. */

/** Bytes after which there is no room. */
const ROOM_BYTES = 3000;
/** Frames after which the encoder dies. */
const FRAMES_ENCODED = 5;

const noRoom = () => new DOMException('There is no room.', 'QuotaExceededError');

const SPOILS: Readonly<Record<string, () => void>> = {
  none: () => undefined,
  disk() {
    const { prototype } = (globalThis as unknown as { FileSystemSyncAccessHandle: { prototype: FileSystemSyncAccessHandle } })
      .FileSystemSyncAccessHandle;
    const { write } = prototype;
    let written = 0;
    prototype.write = function spoiled(this: FileSystemSyncAccessHandle, ...args: Parameters<typeof write>) {
      written += args[0].byteLength;
      if (written > ROOM_BYTES) throw noRoom();
      return write.apply(this, args);
    };
  },
  encoder() {
    const { encode } = VideoEncoder.prototype;
    let frames = 0;
    VideoEncoder.prototype.encode = function spoiled(frame, options) {
      if (++frames > FRAMES_ENCODED) throw new DOMException('The encoder died.', 'EncodingError');
      encode.call(this, frame, options);
    };
  },
  picture() {
    const { fetch } = globalThis;
    globalThis.fetch = async (input, init) =>
      String(input instanceof Request ? input.url : input).includes('/api/pictures')
        ? new Response(null, { status: 404, headers: { 'lime-tick': '1' } })
        : fetch(input, init);
  },
  folderGone() {
    const { createWritable } = FileSystemFileHandle.prototype;
    let files = 0;
    FileSystemFileHandle.prototype.createWritable = async function spoiled(options) {
      if (++files > 3) throw new DOMException('A requested file or directory could not be found.', 'NotFoundError');
      return createWritable.call(this, options);
    };
  },
  folderReadOnly() {
    FileSystemFileHandle.prototype.createWritable = async () => {
      throw new DOMException('The request is not allowed.', 'NotAllowedError');
    };
  },
};

async function namesIn(folder: FileSystemDirectoryHandle): Promise<string[]> {
  const names: string[] = [];
  for await (const name of folder.keys()) names.push(name);
  return names;
}

addEventListener('message', async ({ data: { order, spoil, intoFolder, stopIn } }) => {
  const root = await navigator.storage.getDirectory();
  await root.removeEntry('chosen', { recursive: true }).catch(() => undefined);
  const chosen = await root.getDirectoryHandle('chosen', { create: true });
  SPOILS[spoil]?.();
  const stopper = new AbortController();
  const phases = new Set<string>();
  const end = await runJob(
    handoverOrderSchema.parse(order),
    FORMATS,
    intoFolder ? chosen : null,
    (event) => {
      phases.add(event.kind);
      if (event.kind === stopIn) stopper.abort();
    },
    stopper.signal,
  ).catch((error: unknown) => ({ kind: 'failed', reason: String(error) }));
  const own = await root.getDirectoryHandle('handovers', { create: true });
  const finished = await root.getDirectoryHandle('handover-pictures', { create: true });
  postMessage({ end, left: [...(await namesIn(own)), ...(await namesIn(chosen)), ...(await namesIn(finished))], phases: [...phases] });
});
