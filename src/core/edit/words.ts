import { effectWords } from '@/core/document/finish';
import { sizeText } from '@/core/document/size';
import type { SoundChange } from '@/core/document/sound';
import type { Step, StepOf } from '@/core/edit/step';
import { plural } from '@/core/time/counts';
import { rateName } from '@/core/time/rate';
import { KEEP_AS_INTENDED, REOPEN } from '@/core/words';

function formatWords({ rate, size, firstFrameNumber }: StepOf<'setFormat'>): string {
  const parts = [
    ...(rate ? [`${rateName(rate)} frames a second`] : []),
    ...(size ? [sizeText(size)] : []),
    ...(firstFrameNumber === undefined ? [] : [`first frame ${firstFrameNumber}`]),
  ];
  return parts.join(', ') || 'Nothing';
}

function soundWords({ name, startFrame, fromSample, samples, gainDecibels, fadeInFrames, fadeOutFrames, muted }: SoundChange): string {
  if (startFrame !== undefined) return 'Move sound';
  if (fromSample !== undefined || samples !== undefined) return 'Trim sound';
  if (gainDecibels !== undefined) return `Sound at ${gainDecibels} dB`;
  if (fadeInFrames !== undefined) return `Fade in over ${plural(fadeInFrames, 'frame')}`;
  if (fadeOutFrames !== undefined) return `Fade out over ${plural(fadeOutFrames, 'frame')}`;
  if (muted !== undefined) return muted ? 'Mute sound' : 'Unmute sound';
  return name === undefined ? 'Describe sound' : `Sound called ${name}`;
}

/** What a step does, in a few words for undo, the journal and refusals. */
export function stepWords(step: Step): string {
  switch (step.type) {
    case 'renameProject':
      return `Title “${step.title}”`;
    case 'setFormat':
      return formatWords(step);
    case 'setTiming':
      return step.words;
    case 'setPalette':
      return `Palette of ${plural(step.palette.length, 'colour')}`;
    case 'setChecks':
      return 'What is checked';
    case 'keepFinding':
      return step.note === null ? REOPEN : KEEP_AS_INTENDED;
    case 'addShot':
      return `New shot ${step.shot.code}`;
    case 'removeShot':
      return 'Remove shot';
    case 'addItems':
      return `Lay ${plural(step.items.length, 'item')} on the reel`;
    case 'removeItems':
      return `Take ${plural(step.itemIds.length, 'item')} off the reel`;
    case 'trimItem':
      return step.trim === null ? 'Whole on the reel' : `Trim to ${plural(step.trim.frames, 'frame')}`;
    case 'setGapLength':
      return `Gap of ${plural(step.frames, 'frame')}`;
    case 'readClip':
      return step.way === 'readAs' ? 'Read a clip as the film’s' : 'Convert a clip';
    case 'finishItem':
      return step.finished ? 'Finish over an item' : 'No finish over an item';
    case 'setEffect':
      return step.effect === null ? 'Take an effect out' : `Finish: ${effectWords(step.effect)}`;
    case 'moveEffect':
      return `Move an effect to place ${step.index + 1}`;
    case 'moveItem':
      return `Move to place ${step.index + 1} on the reel`;
    case 'describeShot':
      return 'Describe shot';
    case 'setShotLength':
      return `Shot length ${plural(step.frames, 'frame')}`;
    case 'setNotes':
      return 'Notes';
    case 'addSound':
      return `New sound ${step.sound.name}`;
    case 'removeSound':
      return 'Remove sound';
    case 'changeSound':
      return soundWords(step.change);
    case 'addLevel':
      return `New level ${step.level.name}`;
    case 'removeLevel':
      return 'Remove level';
    case 'moveLevel':
      return 'Move level';
    case 'describeLevel':
      return 'Describe level';
    case 'setCharts':
      return 'Timing charts';
    case 'addDrawing':
      return `New drawing ${step.drawing.number}`;
    case 'copyDrawing':
      return `Copy as drawing ${step.number}`;
    case 'deleteDrawing':
      return 'Delete drawing';
    case 'describeDrawing':
      return 'Describe drawing';
    case 'renumberDrawings':
      return `Renumber ${plural(step.order.length, 'drawing')}`;
    case 'setPicture':
      return step.picture === null ? 'Clear drawing' : 'Draw';
    case 'expose':
      return `Expose for ${plural(step.frames, 'frame')}`;
    case 'blank':
      return `Blank ${plural(step.frames, 'frame')}`;
    case 'removeExposure':
      return 'Remove exposure';
    case 'setLength':
      return `Length ${plural(step.frames, 'frame')}`;
    case 'replaceRuns':
      return 'Change exposures';
    case 'together':
      return step.words;
  }
}
