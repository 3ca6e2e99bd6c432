import type { Digest, Level } from '@/core/document/model';
import type { Step } from '@/core/edit/step';

const ofLevel = (level: Level): readonly Digest[] => level.drawings.flatMap((drawing) => drawing.picture ?? []);

/** Every picture a step brings into the document by its digest. */
export function picturesNamedBy(step: Step): readonly Digest[] {
  switch (step.type) {
    case 'setPicture':
      return step.picture === null ? [] : [step.picture];
    case 'addDrawing':
      return step.drawing.picture === null ? [] : [step.drawing.picture];
    case 'addLevel':
      return ofLevel(step.level);
    case 'addShot':
      return step.shot.levels.flatMap(ofLevel);
    case 'together':
      return step.steps.flatMap(picturesNamedBy);
    default:
      return [];
  }
}
