import type { RenderRun } from '@/core/render/renderPlan';
import type { LoopFile } from '@/workers/output/loop/loopFile';
import type { OutputJob } from '@/workers/output/outputFormat';

/** Pictures of a loop that are packed while the next are rendered, and written in their order. */
export class PackedParts {
  private readonly packing: { readonly run: RenderRun; readonly part: Promise<Uint8Array> }[] = [];

  constructor(
    private readonly file: LoopFile,
    private readonly job: OutputJob,
    /** How many may be on their way at once. */
    private readonly atOnce: number,
  ) {}

  /** Takes what is to be written for a run. */
  async add(run: RenderRun, part: Promise<Uint8Array>): Promise<void> {
    // Whoever waits for it is told of what failed; until then it is no error of the page's.
    part.catch(() => undefined);
    this.packing.push({ run, part });
    if (this.packing.length > this.atOnce) await this.writeNext();
  }

  /** Writes what is still on its way. */
  async finish(): Promise<void> {
    while (this.packing.length > 0) await this.writeNext();
  }

  private async writeNext(): Promise<void> {
    const next = this.packing.shift();
    if (!next) return;
    this.file.add(await next.part);
    this.job.onWritten(next.run.startFrame + next.run.frames);
  }
}
