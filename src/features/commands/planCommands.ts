import { nextNumber, numbersIn, planDrawings, rowOfDrawings } from '@/core/edit/planDrawings';
import { refused } from '@/core/outcome';
import { parseNotation } from '@/core/sheet/notation';
import { parseLength, parseMoment } from '@/core/time/counts';
import { type Answers, ask } from '@/features/commands/ask';
import { type Command, partOf } from '@/features/commands/command';
import { contextNow } from '@/features/project/editContext';
import { inView } from '@/features/project/hooks';
import { goToFrame } from '@/features/project/navigation';

const wholeIn = (text: string): number => (/^\d{1,6}$/.test(text.trim()) ? Number(text) : Number.NaN);

/** Asks how many drawings are planned, how long each is held and which are keys, and shows what comes of it. */
export function askToPlan(): void {
  const view = inView();
  if (!view?.level) return;
  const { project, shot, level, frame } = view;
  const exposuresOf = ({ count = '', frames = '', first = '', typed = '' }: Answers) => {
    if (typed.trim() !== '') return parseNotation(typed);
    const held = parseLength(frames, project.rate);
    return held.ok ? rowOfDrawings(wholeIn(count), held.value, wholeIn(first)) : held;
  };
  ask({
    title: 'Plan drawings',
    about: `On ${level.name} of shot ${shot.code}. They stand on the sheet at once, and are drawn later.`,
    confirm: 'Plan them',
    fields: [
      { id: 'count', label: 'How many drawings', start: '12', narrow: true },
      { id: 'frames', label: 'Each held for, in frames', start: '2', narrow: true },
      { id: 'first', label: 'Number of the first', start: String(nextNumber(level)), narrow: true },
      { id: 'from', label: 'From frame', start: String(frame + project.firstFrameNumber), narrow: true },
      { id: 'keys', label: 'Keys, as 1, 9, 24', start: '', narrow: true },
      { id: 'breakdowns', label: 'Breakdowns, as 5, 16', start: '', narrow: true },
      { id: 'typed', label: 'Or as the sheet writes it, 1*4 2*2 3*2 .*3 1: then the first three are left aside', start: '', lines: 2 },
      {
        id: 'length',
        label: 'Where they don’t fit',
        start: 'grows',
        options: [
          { value: 'grows', label: 'the shot gets longer' },
          { value: 'stays', label: 'the shot stays' },
        ],
      },
    ],
    read: (answers) => {
      const written = exposuresOf(answers);
      if (!written.ok) return written;
      const from = parseMoment(answers.from ?? '', project.rate, project.firstFrameNumber);
      if (!from.ok) return from;
      if (from.value < 0) return refused(`The shot begins on frame ${project.firstFrameNumber}.`);
      const roles = { keys: numbersIn(answers.keys ?? ''), breakdowns: numbersIn(answers.breakdowns ?? '') };
      return planDrawings(contextNow(view), level, from.value, written.value, roles, answers.length !== 'stays');
    },
    done: ({ from = '' }) => {
      const to = parseMoment(from, project.rate, project.firstFrameNumber);
      if (to.ok) goToFrame(to.value);
    },
  });
}

/** Planning many drawings in one go. */
export const planCommands: readonly Command[] = partOf('sheet', [
  {
    id: 'plan-drawings',
    group: 'Drawings',
    words: () => 'Plan drawings …',
    keys: ['Alt+P'],
    hindrance: () => (inView()?.level ? null : 'there is no level to plan on'),
    run: askToPlan,
  },
]);
