import type { Step } from '@/core/edit/step';

/** Every recording a step brings into the document, by the digest of its file. */
export function recordingsNamedBy(step: Step): readonly string[] {
  switch (step.type) {
    case 'addSound':
      return [step.sound.recording.original];
    case 'addShot':
      return step.shot.sounds.map((sound) => sound.recording.original);
    case 'together':
      return step.steps.flatMap(recordingsNamedBy);
    default:
      return [];
  }
}
