import type { ReelItem } from '@/core/document/model';
import type { Step } from '@/core/edit/step';

const ofItem = (item: ReelItem): readonly string[] => (item.kind === 'clip' ? [item.clip.original] : []);

/** Every file a step brings into the document that it names as it was brought in, by the digest of its bytes: recordings and clips. */
export function originalsNamedBy(step: Step): readonly string[] {
  switch (step.type) {
    case 'addSound':
      return [step.sound.recording.original];
    case 'addShot':
      return step.shot.sounds.map((sound) => sound.recording.original);
    case 'addItems':
      return step.items.flatMap(({ item }) => ofItem(item));
    case 'together':
      return step.steps.flatMap(originalsNamedBy);
    default:
      return [];
  }
}
