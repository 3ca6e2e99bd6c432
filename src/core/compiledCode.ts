/*
 * Code that works on many numbers at once is compiled beforehand (`npm run simd`) and ships as text. It sees one memory of its
 * own: numbers are put there, worked on, and taken out again.
 */

type Memory = { readonly buffer: ArrayBuffer; readonly grow: (pages: number) => number };

/** What of WebAssembly is used; the core's types name nothing that only browsers have. */
type WebAssemblyPart = {
  readonly Memory: new (size: { readonly initial: number }) => Memory;
  readonly Module: new (code: Uint8Array) => object;
  readonly Instance: new (module: object, imports: object) => { readonly exports: unknown };
};
const { WebAssembly, atob } = globalThis as unknown as { readonly WebAssembly: WebAssemblyPart; readonly atob: (text: string) => string };

const PAGE_BYTES = 65_536;

/** So much is put before compiled code at once where it can be: what was just put there lies near the processor, and is read quicker. */
export const NEAR_BYTES = 65_536;

/** Compiled code with its memory. Both are made when they are first wanted. */
export class CompiledCode<Functions> {
  private loaded: { readonly functions: Functions; readonly memory: Memory } | null = null;

  /** `code` is base64, and imports its memory as `env.memory`. */
  constructor(private readonly code: string) {}

  /** The functions, and the whole memory with room for at least so many bytes; it is to be looked at again after the next call. */
  withRoom(bytes: number): { readonly functions: Functions; readonly memory: Uint8Array } {
    this.loaded ??= this.load();
    const { functions, memory } = this.loaded;
    const missing = bytes - memory.buffer.byteLength;
    if (missing > 0) memory.grow(Math.ceil(missing / PAGE_BYTES));
    return { functions, memory: new Uint8Array(memory.buffer) };
  }

  private load() {
    const memory = new WebAssembly.Memory({ initial: 1 });
    const bytes = Uint8Array.from(atob(this.code), (letter) => letter.charCodeAt(0));
    const { exports } = new WebAssembly.Instance(new WebAssembly.Module(bytes), { env: { memory } });
    return { functions: exports as Functions, memory };
  }

  /** Gives the memory back, until it is wanted again. */
  letGo(): void {
    this.loaded = null;
  }
}
