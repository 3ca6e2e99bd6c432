import { bytesText, inOne } from '@/core/bytes';
import type { LoopOptions } from '@/core/output/loop';
import { OutputRefused, type WrittenOutput } from '@/workers/output/outputFormat';
import type { OwnFile } from '@/workers/output/ownFile';

/** Where a loop is written: a file of the browser's own folder, or memory where it is only tried. */
export type LoopSink = Pick<OwnFile, 'write' | 'storedAs' | 'discard'> & { readonly finish: () => Promise<Blob> };

/** What is written at once: the parts of a loop are small, and each writing takes as long as one of many. */
const BLOCK_BYTES = 256 * 1024;

/** A loop while it is written: parts one after another. */
export class LoopFile {
  private bytes = 0;
  private waiting: Uint8Array[] = [];
  private waitingBytes = 0;

  constructor(
    private readonly own: LoopSink,
    private readonly options: LoopOptions,
  ) {}

  add(part: Uint8Array): void {
    this.waiting.push(part);
    this.waitingBytes += part.byteLength;
    this.bytes += part.byteLength;
    if (this.waitingBytes >= BLOCK_BYTES) this.pass();
  }

  /** Adds a whole file, part by part. */
  async addAll(file: Blob): Promise<void> {
    for (let start = 0; start < file.size; start += BLOCK_BYTES)
      this.add(new Uint8Array(await file.slice(start, start + BLOCK_BYTES).arrayBuffer()));
  }

  private pass(): void {
    if (this.waitingBytes > 0) this.own.write(this.bytes - this.waitingBytes, inOne(this.waiting));
    this.waiting = [];
    this.waitingBytes = 0;
  }

  /** Writes over the beginning, which may only be known in the end. */
  begin(head: Uint8Array): void {
    this.pass();
    this.own.write(0, head);
  }

  get fileBytes(): number {
    return this.bytes;
  }

  /** The file as it was written. Throws `OutputRefused` where it is larger than it may be. */
  async finish(): Promise<WrittenOutput> {
    const { mostBytes } = this.options;
    if (mostBytes !== null && this.bytes > mostBytes)
      throw new OutputRefused(
        `It comes to ${bytesText(this.bytes)}, and was to stay below ${bytesText(mostBytes)}. Nothing was written: fit it again, or allow more.`,
      );
    this.pass();
    const file = await this.own.finish();
    return {
      storedAs: this.own.storedAs,
      file,
      fileBytes: file.size,
      decoded: null,
      source: { kind: 'file', file, copyAt: null },
      close: async () => undefined,
      discard: this.own.discard,
    };
  }
}
