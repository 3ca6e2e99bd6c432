import { create } from 'zustand';
import { emptyDrawingsFor } from '@/core/bring/trace';
import type { Command } from '@/features/commands/command';
import { contextNow, take } from '@/features/project/editContext';
import { inView } from '@/features/project/hooks';
import { useViewStore } from '@/features/project/viewStore';

/** Files a person wants to bring in, from a picker, a drop or a paste: pictures, a clip to trace over, a clip for the reel, recordings; null while there are none. */
export const useBringStore = create<{
  readonly files: readonly File[] | null;
  readonly clip: File | null;
  readonly reelClip: File | null;
  readonly recordings: readonly File[] | null;
}>(() => ({
  files: null,
  clip: null,
  reelClip: null,
  recordings: null,
}));

/** What the picker offers. */
const PICTURES = '.png,.apng,.jpg,.jpeg,.webp,.gif,.tif,.tiff,.tga,.bmp,.ora,.mp4,.mov,.webm,.mkv,image/*,video/*';
const RECORDINGS = '.wav,.flac,.mp3,.ogg,.oga,.opus,.m4a,.aac,audio/*';

/** Whether a file is a film by its kind or its name; what it holds is looked at when it is read. */
export const isClipFile = (file: File): boolean => file.type.startsWith('video/') || /\.(mp4|m4v|mov|webm|mkv)$/i.test(file.name);

/** Whether a file is a recording by its kind or its name. */
export const isRecordingFile = (file: File): boolean =>
  file.type.startsWith('audio/') || /\.(wav|flac|mp3|ogg|oga|opus|m4a|aac)$/i.test(file.name);

/** Makes empty drawings to go with the guide of now. */
function drawAfterGuide(): void {
  const view = inView();
  if (view?.level) take(emptyDrawingsFor(contextNow(view), view.level), true);
}

/** Takes files to be brought in; nothing happens without any. Recordings are asked about before pictures that come with them. */
export function takeFiles(files: Iterable<File>): void {
  const list = [...files];
  const recordings = list.filter(isRecordingFile);
  const others = list.filter((file) => !isRecordingFile(file));
  const [first] = others;
  if (recordings.length > 0) useBringStore.setState({ recordings });
  if (first && others.length === 1 && isClipFile(first))
    useBringStore.setState(useViewStore.getState().onReel ? { reelClip: first } : { clip: first });
  else if (first) useBringStore.setState({ files: others });
}

let carried: readonly File[] = [];

/** Carries files over to the project that is opened next, which takes them with `takeCarriedFiles`. */
export function carryFiles(files: readonly File[]): void {
  carried = files;
}

/** Takes the files that were carried over to this project, once. */
export function takeCarriedFiles(): void {
  const files = carried;
  carried = [];
  if (files.length > 0) takeFiles(files);
}

/** Lets a person choose files to bring in: of any kind, or recordings alone. What a file holds is looked at, not what it is called. */
export function chooseFiles(offered: 'all' | 'recordings' = 'all'): void {
  const input = document.createElement('input');
  input.type = 'file';
  input.multiple = true;
  input.accept = offered === 'recordings' ? RECORDINGS : `${PICTURES},${RECORDINGS}`;
  // It stands in the page as long as it is open: one that stands nowhere may be gone before anything is chosen.
  input.hidden = true;
  input.addEventListener('change', () => {
    input.remove();
    takeFiles(input.files ?? []);
  });
  input.addEventListener('cancel', () => input.remove());
  document.body.append(input);
  input.click();
}

/** Bringing in what was drawn elsewhere. */
export const bringCommands: readonly Command[] = [
  {
    id: 'bring-in',
    group: 'Levels',
    words: () =>
      useViewStore.getState().onReel
        ? 'Bring in a clip, a sequence or a sound for the reel …'
        : 'Bring in pictures, or a clip to trace over …',
    keys: ['Mod+I'],
    run: () => chooseFiles(),
  },
  {
    id: 'empty-drawings',
    group: 'Levels',
    place: 'sheet',
    words: () => `An empty drawing for every picture of ${inView()?.level?.name ?? 'the guide'}, on a new level`,
    keys: ['Alt+G'],
    hindrance: () => (inView()?.level?.kind === 'guide' ? null : 'no guide here'),
    run: drawAfterGuide,
  },
  {
    id: 'guide-lines',
    group: 'Levels',
    words: () => (useViewStore.getState().guideLines ? 'Show guides as they are' : 'Show only the lines of guides'),
    keys: ['Alt+O'],
    run: () => useViewStore.setState(({ guideLines }) => ({ guideLines: !guideLines })),
  },
];
