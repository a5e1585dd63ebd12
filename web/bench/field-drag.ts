import type { DragEvent } from 'react';

/** A field on its way to the board. */
export interface DraggedField {
  dataset: string;
  field: string;
}

// What is dragged can only be read when it is dropped; where it hovers, it is known from here.
let dragged: DraggedField | null = null;

export const dragField = (event: DragEvent, field: DraggedField): void => {
  dragged = field;
  event.dataTransfer.effectAllowed = 'copy';
  event.dataTransfer.setData('text/plain', field.field);
};
export const dragEnded = (): void => {
  dragged = null;
};

/** The field that is being dragged, if it is one. */
export const fieldBeingDragged = (_event: DragEvent): DraggedField | null => dragged;
