import type { NoteKind, SheetNote } from '@/core/document/model';
import { type Edit, type EditContext, editOf } from '@/core/edit/edit';
import { type Outcome, refused } from '@/core/outcome';

/** Most characters of one note. */
export const LONGEST_NOTE_CHARACTERS = 400;

/**
 * Writes on a frame (from 0): one note, one spoken word and one accent at most; empty words take what is
 * there away. With a null kind everything written on the frame goes.
 */
export function setNote({ shot, firstNumber }: EditContext, frame: number, kind: NoteKind | null, words: string): Outcome<Edit> {
  const written = words.trim();
  if (written.length > LONGEST_NOTE_CHARACTERS)
    return refused(`What is written on a frame has at most ${LONGEST_NOTE_CHARACTERS} characters; this has ${written.length}.`);
  const others = shot.notes.filter((note) => note.frame !== frame || (kind !== null && note.kind !== kind));
  const added: readonly SheetNote[] = kind !== null && written !== '' ? [{ frame, kind, words: written }] : [];
  const notes = [...others, ...added].toSorted((a, b) => a.frame - b.frame);
  const where = `frame ${frame + firstNumber}`;
  const before = shot.notes.find((note) => note.frame === frame && note.kind === kind);
  if (added.length === 0 && others.length === shot.notes.length) return refused(`Nothing is written on ${where} .`);
  if (before && before.words === written) return refused(`${where[0]?.toUpperCase()}${where.slice(1)} says so already.`);
  const says = added.length === 0 ? `Remove what is written on ${where}` : `Write “${written}” on ${where}`;
  return editOf([{ type: 'setNotes', shotId: shot.id, notes }], added.length === 0 ? 'Remove a note' : 'Add a note', says);
}
