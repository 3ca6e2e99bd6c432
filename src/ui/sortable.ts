'use client';
import { type Announcements, KeyboardSensor, PointerSensor, type UniqueIdentifier, useSensor, useSensors } from '@dnd-kit/core';
import { sortableKeyboardCoordinates } from '@dnd-kit/sortable';

/** What a list that is put in order listens to: a pointer that has moved a little, and Space with the arrow keys. */
export const useSortableSensors = () =>
  useSensors(
    useSensor(PointerSensor, { activationConstraint: { distance: 4 } }),
    useSensor(KeyboardSensor, { coordinateGetter: sortableKeyboardCoordinates }),
  );

/** What is told of a drag to who can't see it, by the names of what is dragged and their places. */
export function sortableWords(ids: readonly string[], nameOf: (id: string) => string) {
  const name = ({ id }: { readonly id: UniqueIdentifier }) => nameOf(String(id));
  const place = ({ id }: { readonly id: UniqueIdentifier }) => `place ${ids.indexOf(String(id)) + 1} of ${ids.length}`;
  const announcements: Announcements = {
    onDragStart: ({ active }) => `${name(active)} is picked up from ${place(active)}.`,
    onDragOver: ({ active, over }) => (over ? `${name(active)} is over ${place(over)}.` : `${name(active)} is outside the list.`),
    onDragEnd: ({ active, over }) => (over ? `${name(active)} is put down at ${place(over)}.` : `${name(active)} is where it was.`),
    onDragCancel: ({ active }) => `${name(active)} is where it was.`,
  };
  return {
    announcements,
    screenReaderInstructions: {
      draggable: 'Press Space to pick it up, the arrow keys to move it, Space to put it down, Escape to leave it where it was.',
    },
  };
}
