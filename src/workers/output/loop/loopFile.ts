import { bytesText } from '@/core/bytes';
import type { LoopOptions } from '@/core/output/loop';
import { OutputRefused, type WrittenOutput } from '@/workers/output/outputFormat';
import type { OwnFile } from '@/workers/output/ownFile';

/** Where a loop is written: a file of the browser's own folder, or memory where it is only tried. */
export type LoopSink = Pick<OwnFile, 'write' | 'storedAs' | 'discard'> & { readonly finish: () => Promise<Blob> };

/** A loop while it is written: parts one after another. */
export class LoopFile {
  private bytes = 0;

  constructor(
    private readonly own: LoopSink,
    private readonly options: LoopOptions,
  ) {}

  add(part: Uint8Array): void {
    this.own.write(this.bytes, part);
    this.bytes += part.byteLength;
  }

  /** Writes over the beginning, which may only be known in the end. */
  begin(head: Uint8Array): void {
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
