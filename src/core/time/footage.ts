import { done, type Outcome, refused } from '@/core/outcome';

/** Frames on a foot of film: 35 mm with four perforations, and 16 mm (common practice). */
export const FRAMES_PER_FOOT = { '35mm': 16, '16mm': 40 } as const;
export type FilmGauge = keyof typeof FRAMES_PER_FOOT;

/** A frame count as whole feet and frames left over. */
export function footageOf(frames: number, gauge: FilmGauge = '35mm'): { feet: number; frames: number } {
  const perFoot = FRAMES_PER_FOOT[gauge];
  return { feet: Math.floor(frames / perFoot), frames: frames % perFoot };
}

/** Footage as written on sheets: `6+00`. */
export function footageText(frames: number, gauge: FilmGauge = '35mm'): string {
  const footage = footageOf(frames, gauge);
  return `${footage.feet}+${String(footage.frames).padStart(2, '0')}`;
}

/** Frames of a footage written `6+00`; the part after the plus must be below one foot. */
export function framesOfFootage(text: string, gauge: FilmGauge = '35mm'): Outcome<number> {
  const parts = /^(\d{1,6})\+(\d{1,2})$/.exec(text.trim());
  if (!parts) return refused(`“${text}” is not a footage: write feet+frames, as 6+00.`);
  const frames = Number(parts[2]);
  const perFoot = FRAMES_PER_FOOT[gauge];
  if (frames >= perFoot)
    return refused(`“${text}” has ${frames} frames after the feet; a foot holds ${perFoot}, so write 0 to ${perFoot - 1}.`);
  return done(Number(parts[1]) * perFoot + frames);
}
