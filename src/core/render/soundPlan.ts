/** The sound a file is to hold: `samples` of each channel, as long as its frames. `codec` as decoders call it. */
export type SoundPlan = { readonly codec: string; readonly sampleRate: number; readonly channels: number; readonly samples: number };
