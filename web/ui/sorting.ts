import {
  type Announcements,
  KeyboardSensor,
  PointerSensor,
  type UniqueIdentifier,
  useSensor,
  useSensors,
} from '@dnd-kit/core';
import { sortableKeyboardCoordinates } from '@dnd-kit/sortable';

/** Pointer and keyboard for lists that are put in order by handles. */
export const useSortSensors = () =>
  useSensors(
    useSensor(PointerSensor, { activationConstraint: { distance: 4 } }),
    useSensor(KeyboardSensor, { coordinateGetter: sortableKeyboardCoordinates }),
  );

/** What a screen reader hears while something is put in order. */
export const sortAnnouncements = (nameOf: (id: UniqueIdentifier) => string): Announcements => ({
  onDragStart: ({ active }) => `${nameOf(active.id)} is taken up. Arrows move it, Space puts it down.`,
  onDragOver: ({ active, over }) =>
    over ? `${nameOf(active.id)} is at the place of ${nameOf(over.id)}.` : undefined,
  onDragEnd: ({ active }) => `${nameOf(active.id)} is put down.`,
  onDragCancel: ({ active }) => `${nameOf(active.id)} stays where it was.`,
});
