import { columns, type Place } from '@sorvik/core/board/layout';
import { pointerDrag } from '@sorvik/view/pointer-drag';
import { type KeyboardEvent, useMemo, useRef } from 'react';
import { tell } from '../ui/tell';

interface Props {
  /** The chart's name, for who hears it. */
  name: string;
  place: Place;
  /** The place while it is being changed; finished, or given up with null. */
  onTry(place: Place | null): void;
  onKeep(place: Place): void;
}

type Change = (place: Place, across: number, down: number) => Place;
const move: Change = (place, across, down) => ({
  ...place,
  column: place.column + across,
  row: place.row + down,
});
const size: Change = (place, across, down) => ({
  ...place,
  width: Math.min(place.width + across, columns - place.column),
  height: place.height + down,
});

const steps: Record<string, [number, number]> = {
  ArrowLeft: [-1, 0],
  ArrowRight: [1, 0],
  ArrowUp: [0, -1],
  ArrowDown: [0, 1],
};

/** The size of a cell of the grid that an element lies on, with the gap after it, px. */
function cellOf(element: Element): { width: number; height: number } {
  const grid = element.closest('.sv-charts')!;
  const style = getComputedStyle(grid);
  const gap = Number.parseFloat(style.columnGap) || 0;
  const tracks = (list: string) => list.split(' ').map(Number.parseFloat);
  return {
    width: tracks(style.gridTemplateColumns)[0]! + gap,
    height: tracks(style.gridTemplateRows)[0]! + gap,
  };
}

/** Two grips on a chart: one moves it over the board, one changes its size; with the pointer, or with the arrows. */
export function GridGrips(props: Props) {
  return (
    <>
      <Grip
        {...props}
        className="sv-grip-move"
        change={move}
        label={tell('bench.gridGrips.moveName', { name: props.name })}
      />
      <Grip
        {...props}
        className="sv-grip-size"
        change={size}
        label={tell('bench.gridGrips.sizeOfName', { name: props.name })}
      />
    </>
  );
}

function Grip({
  place,
  onTry,
  onKeep,
  change,
  className,
  label,
}: Props & { change: Change; className: string; label: string }) {
  const current = useRef({ place, onTry, onKeep });
  current.current = { place, onTry, onKeep };
  const drag = useMemo(
    () =>
      pointerDrag<{ x: number; y: number; place: Place; element: HTMLElement }>({
        begin: ({ x, y }, element) => ({ x, y, place: current.current.place, element }),
        move(from, { x, y }, passing) {
          const cell = cellOf(from.element);
          const across = Math.round((x - from.x) / cell.width);
          const down = Math.round((y - from.y) / cell.height);
          const now = across || down ? change(from.place, across, down) : from.place;
          if (passing) return current.current.onTry(now);
          if (now !== from.place) current.current.onKeep(now);
          current.current.onTry(null);
        },
        giveUp: () => current.current.onTry(null),
      }),
    [change],
  );
  const onKeyDown = (event: KeyboardEvent) => {
    if (event.key === 'Escape') drag.cancel();
    const step = steps[event.key];
    if (!step) return;
    event.preventDefault();
    onKeep(change(place, ...step));
  };
  const { column, row, width, height } = place;
  return (
    <button
      type="button"
      className={`sv-grip ${className}`}
      aria-label={tell('bench.gridGrips.place', {
        label,
        column: column + 1,
        row: row + 1,
        width,
        height,
      })}
      {...drag.on}
      onKeyDown={onKeyDown}
    />
  );
}
