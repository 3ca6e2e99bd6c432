import { NOTE_KINDS, type NoteKind } from '@/core/document/model';
import { cutFrames, type FrameScope, type InsertedAs, insertFrames, trimTo } from '@/core/edit/frameEdits';
import { setNote } from '@/core/edit/noteEdits';
import { refused } from '@/core/outcome';
import type { Block } from '@/core/sheet/block';
import { parseLength } from '@/core/time/counts';
import { type Answers, type AskField, ask } from '@/features/commands/ask';
import { type Command, partOf } from '@/features/commands/command';
import { withBlock } from '@/features/commands/timingCommands';
import { contextNow, take, type View } from '@/features/project/editContext';
import { inView } from '@/features/project/hooks';
import { useViewStore } from '@/features/project/viewStore';

const group = 'Frames of the sheet';

const scopeField = (view: View, block: Block): AskField => ({
  id: 'scope',
  label: 'On',
  start: 'shot',
  options: [
    { value: 'shot', label: 'the whole shot' },
    { value: 'levels', label: block.levelIds.map((id) => view.shot.levels.find((level) => level.id === id)?.name ?? '?').join(', ') },
  ],
});

const lengthField: AskField = {
  id: 'length',
  label: 'The shot’s length',
  start: 'follows',
  options: [
    { value: 'follows', label: 'changes with it' },
    { value: 'stays', label: 'stays as it is' },
  ],
};

const scopeOf = (answers: Answers, block: Block): FrameScope => (answers.scope === 'shot' ? 'shot' : block.levelIds);

const askToInsert = () =>
  withBlock((view, block) =>
    ask({
      title: `Insert frames before frame ${view.frame + view.project.firstFrameNumber}`,
      about: 'Inside an exposure the frames make it longer; it is never split in two.',
      confirm: 'Insert',
      fields: [
        { id: 'frames', label: 'How many, as 6 or 1s', start: '1' },
        scopeField(view, block),
        {
          id: 'as',
          label: 'Between two exposures they are',
          start: 'hold',
          options: [
            { value: 'hold', label: 'the drawing before, held longer' },
            { value: 'blank', label: 'blank' },
          ],
        },
        lengthField,
      ],
      read: (answers) => {
        const frames = parseLength(answers.frames ?? '', view.project.rate);
        if (!frames.ok) return frames;
        const as: InsertedAs = answers.as === 'blank' ? 'blank' : 'hold';
        return insertFrames(contextNow(view), scopeOf(answers, block), view.frame, frames.value, as, answers.length === 'follows');
      },
    }),
  );

const askToCut = () =>
  withBlock((view, block) =>
    ask({
      title: 'Cut frames out',
      about: 'What follows moves up. Drawings that are exposed nowhere any more stay on their level.',
      confirm: 'Cut out',
      fields: [scopeField(view, block), lengthField],
      read: (answers) => cutFrames(contextNow(view), scopeOf(answers, block), block.fromFrame, block.toFrame, answers.length === 'follows'),
      done: () => useViewStore.setState({ selection: null, frame: block.fromFrame }),
    }),
  );

const askToTrim = () =>
  withBlock((view, block) => {
    const { loop, selection } = useViewStore.getState();
    const range = loop ?? selection ?? block;
    ask({
      title: 'Trim every level',
      about: `To ${loop ? 'the loop' : 'the selected frames'}: what lies before and after goes from all levels, with what is written there. Drawings stay on their levels.`,
      confirm: 'Trim',
      fields: [lengthField],
      read: (answers) =>
        trimTo(
          contextNow(view),
          view.project.rate,
          range.fromFrame,
          Math.min(range.toFrame, view.shot.frames - 1),
          answers.length === 'follows',
        ),
      done: () => useViewStore.setState({ selection: null, loop: null, frame: 0 }),
    });
  });

const NOTE_WORDS: Record<NoteKind, string> = { note: 'a note', word: 'a spoken word', accent: 'an accent' };

function askForNote(): void {
  const view = inView();
  if (!view) return;
  const here = view.shot.notes.filter((note) => note.frame === view.frame);
  const kind = here[0]?.kind ?? 'note';
  ask({
    title: `Write on frame ${view.frame + view.project.firstFrameNumber}`,
    about: 'Words are shown beside the frame on the sheet and on its print. Empty it to remove them.',
    confirm: 'Write',
    fields: [
      { id: 'words', label: 'Words', start: here.find((note) => note.kind === kind)?.words ?? '' },
      { id: 'kind', label: 'They are', start: kind, options: NOTE_KINDS.map((value) => ({ value, label: NOTE_WORDS[value] })) },
    ],
    read: ({ words = '', kind: written = 'note' }) => {
      const chosen = NOTE_KINDS.find((candidate) => candidate === written);
      return chosen ? setNote(contextNow(view), view.frame, chosen, words) : refused('Choose what the words are.');
    },
  });
}

function clearNotes(): void {
  const view = inView();
  if (view) take(setNote(contextNow(view), view.frame, null, ''));
}

/** Commands on the frames of a shot: more, fewer, and what is written beside them. */
export const frameCommands: readonly Command[] = partOf('sheet', [
  { id: 'insert-frames', group, words: () => 'Insert frames here …', keys: ['Insert', 'Shift+I'], run: askToInsert },
  { id: 'cut-frames', group, words: () => 'Cut the selected frames out …', keys: ['Mod+Delete', 'Mod+Backspace'], run: askToCut },
  { id: 'trim', group, words: () => 'Trim every level to the loop or the selected frames …', keys: ['Alt+X'], run: askToTrim },
  { id: 'note', group, words: () => 'Add a note, word or accent …', keys: ['Enter', 'W'], run: askForNote },
  {
    id: 'clear-notes',
    group,
    words: () => 'Remove the note',
    keys: ['Shift+W'],
    run: clearNotes,
    hindrance: () => {
      const view = inView();
      return view?.shot.notes.some((note) => note.frame === view.frame) ? null : 'nothing is written here';
    },
  },
]);
