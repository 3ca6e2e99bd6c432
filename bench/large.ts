import type { Drawing, Level, Project } from '@/core/document/model';
import { newProject } from '../src/core/document/newProject';

export const LEVELS = 10;
export const FRAMES = 10_000;

/** Ten levels of 10,000 frames, every one on ones: the most exposures such a shot can have. */
export function largeProject(): Project {
  const levels = Array.from({ length: LEVELS }, (_, place): Level => {
    const drawings = Array.from(
      { length: FRAMES },
      (_, index): Drawing => ({ id: `${place}-${index}`, number: String(index + 1), role: 'inbetween', picture: null }),
    );
    return {
      id: `level${place}`,
      name: `Level ${place}`,
      kind: 'animated',
      visible: true,
      locked: false,
      opacityPercent: 100,
      blend: 'normal',
      drawings,
      exposures: drawings.map((drawing) => ({ drawing: drawing.id, frames: 1 })),
      charts: [],
      media: null,
    };
  });
  const shot = { id: 'shot', code: '010', name: '', note: '', frames: FRAMES, levels, notes: [], sounds: [] };
  return newProject({
    id: 'large',
    title: 'Large',
    rate: { num: 24, den: 1 },
    size: { width: 1280, height: 720 },
    firstFrameNumber: 1,
    shots: [shot],
  });
}
