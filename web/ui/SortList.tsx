import {
  closestCenter,
  DndContext,
  type DragEndEvent,
  KeyboardSensor,
  PointerSensor,
  type UniqueIdentifier,
  useSensor,
  useSensors,
} from '@dnd-kit/core';
import {
  SortableContext,
  sortableKeyboardCoordinates,
  useSortable,
  verticalListSortingStrategy,
} from '@dnd-kit/sortable';
import type { ReactNode } from 'react';
import { tell } from './tell';

interface Props {
  /** In the order they stand in. */
  items: readonly { id: string; name: string }[];
  onMove(from: number, to: number): void;
  children: ReactNode;
}

/** A list that is put in order by handles, with pointer or keyboard; a screen reader hears what happens. */
export function SortList({ items, onMove, children }: Props) {
  const sensors = useSensors(
    useSensor(PointerSensor, { activationConstraint: { distance: 4 } }),
    useSensor(KeyboardSensor, { coordinateGetter: sortableKeyboardCoordinates }),
  );
  const at = (id: UniqueIdentifier) => items.findIndex((item) => item.id === id);
  const nameOf = ({ id }: { id: UniqueIdentifier }) => items[at(id)]?.name ?? 'it';
  const onDragEnd = ({ active, over }: DragEndEvent) => {
    if (over && active.id !== over.id) onMove(at(active.id), at(over.id));
  };
  return (
    <DndContext
      sensors={sensors}
      collisionDetection={closestCenter}
      onDragEnd={onDragEnd}
      accessibility={{
        announcements: {
          onDragStart: ({ active }) =>
            tell('ui.sortList.activePickedUpArrowKeys', { active: nameOf(active) }),
          onDragOver: ({ active, over }) =>
            over
              ? tell('ui.sortList.activeIsAtThePlace', { active: nameOf(active), over: nameOf(over) })
              : undefined,
          onDragEnd: ({ active }) => tell('ui.sortList.activeIsPutDown', { active: nameOf(active) }),
          onDragCancel: ({ active }) => tell('ui.sortList.activeStaysWhereItWas', { active: nameOf(active) }),
        },
      }}
    >
      <SortableContext items={items.map(({ id }) => id)} strategy={verticalListSortingStrategy}>
        {children}
      </SortableContext>
    </DndContext>
  );
}

/** What makes an element an item of a sort list, and the button by which it is moved. */
export function useSorted(id: string, label: string, title: string, disabled = false) {
  const { setNodeRef, setActivatorNodeRef, attributes, listeners, transform, transition, isDragging } =
    useSortable({ id, disabled });
  return {
    ref: setNodeRef,
    isDragged: isDragging,
    style: transform ? { transform: `translate3d(0, ${transform.y}px, 0)`, transition } : undefined,
    handle: disabled ? null : (
      <button
        type="button"
        ref={setActivatorNodeRef}
        className="sv-drag"
        {...attributes}
        {...listeners}
        aria-label={label}
        title={title}
      >
        <span aria-hidden="true" />
      </button>
    ),
  };
}
