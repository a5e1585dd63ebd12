import { perFrame } from './per-frame';

/** What a pointer event tells, of the page or of React. */
interface PointerPress {
  button: number;
  pointerId: number;
  clientX: number;
  clientY: number;
  target: EventTarget | null;
  currentTarget: EventTarget | null;
  preventDefault(): void;
}

/** Where a pointer is, px of the window. */
export interface At {
  x: number;
  y: number;
}

export interface DragRules<T> {
  /** What is dragged, found where the pointer is pressed; null for nothing. */
  begin(at: At, element: HTMLElement, target: HTMLElement): T | null;
  /** Moves folded to frames; the last one, when the pointer is let go, is not passing. */
  move(dragged: T, at: At, passing: boolean): void;
  /** The drag was broken off; left out, it ends where it is. */
  giveUp?(dragged: T): void;
}

/**
 * Follows the main button from where it is pressed on an element until it is let go, also beyond the element. Its four
 * functions are listened with, in the page or as the properties of a React element.
 */
export function pointerDrag<T>({ begin, move, giveUp }: DragRules<T>) {
  let dragged: T | null = null;
  const placeOf = ({ clientX: x, clientY: y }: PointerPress): At => ({ x, y });
  const send = perFrame((at: At) => dragged !== null && move(dragged, at, true));
  const stop = () => {
    send.cancel();
    const held = dragged;
    dragged = null;
    return held;
  };
  const onPointerUp = (event: PointerPress) => {
    const held = stop();
    if (held !== null) move(held, placeOf(event), false);
  };
  const cancel = () => {
    const held = stop();
    if (held !== null) giveUp?.(held);
  };
  return {
    on: {
      onPointerDown(event: PointerPress) {
        if (event.button !== 0) return;
        const element = event.currentTarget as HTMLElement;
        dragged = begin(placeOf(event), element, event.target as HTMLElement);
        if (dragged === null) return;
        event.preventDefault();
        element.setPointerCapture(event.pointerId);
      },
      onPointerMove(event: PointerPress) {
        if (dragged !== null) send(placeOf(event));
      },
      onPointerUp,
      onPointerCancel: (event: PointerPress) => (giveUp ? cancel() : onPointerUp(event)),
    },
    /** Whether something is being dragged. */
    get active() {
      return dragged !== null;
    },
    cancel,
  };
}
