/** A row of numbers that grows, in as few bytes as its kind takes. */
export class GrowingRow<T extends Uint8Array | Uint32Array | Float64Array> {
  private filled = 0;
  constructor(
    private values: T,
    private readonly make: (length: number) => T,
  ) {}

  push(value: number): void {
    this.roomFor(1);
    this.values[this.filled++] = value;
  }

  /** Adds numbers one after another. */
  pushAll(values: T): void {
    this.roomFor(values.length);
    this.values.set(values, this.filled);
    this.filled += values.length;
  }

  private roomFor(more: number): void {
    if (this.filled + more <= this.values.length) return;
    const longer = this.make(Math.max(1024, this.filled + more, Math.ceil(this.filled * 1.5)));
    longer.set(this.values);
    this.values = longer;
  }

  get whole(): T {
    return this.values.slice(0, this.filled) as T;
  }
}
