/* What is used of the encoder, which comes without types. */
declare module 'gifenc' {
  type Rgb = number[];
  type Frame = {
    readonly palette?: Rgb[] | undefined;
    readonly delay: number;
    readonly transparent: boolean;
    readonly transparentIndex: number;
    readonly dispose: number;
    readonly colorDepth: number;
  };
  export function GIFEncoder(options: { readonly auto: boolean; readonly initialCapacity?: number }): {
    readonly writeFrame: (indices: Uint8Array, width: number, height: number, frame: Frame) => void;
    readonly bytes: () => Uint8Array<ArrayBuffer>;
  };
  export function quantize(rgba: Uint8Array, most: number, options: { readonly format: 'rgb565' }): Rgb[];
}
