import { columns, type Place } from '@sorvik/core/board/layout';
import { type KeyboardEvent, type PointerEvent, useRef } from 'react';

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
      <Grip {...props} className="sv-grip-move" change={move} label={`Move ${props.name}`} />
      <Grip {...props} className="sv-grip-size" change={size} label={`Size of ${props.name}`} />
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
  const began = useRef<{ x: number; y: number; place: Place; now: Place } | null>(null);
  const finish = (keep: boolean) => {
    const { current } = began;
    began.current = null;
    if (!current) return;
    if (keep && current.now !== current.place) onKeep(current.now);
    onTry(null);
  };
  const onPointerDown = (event: PointerEvent<HTMLButtonElement>) => {
    if (event.button !== 0) return;
    event.currentTarget.setPointerCapture(event.pointerId);
    began.current = { x: event.clientX, y: event.clientY, place, now: place };
  };
  const onPointerMove = (event: PointerEvent<HTMLButtonElement>) => {
    const from = began.current;
    if (!from) return;
    const cell = cellOf(event.currentTarget);
    const across = Math.round((event.clientX - from.x) / cell.width);
    const down = Math.round((event.clientY - from.y) / cell.height);
    from.now = across || down ? change(from.place, across, down) : from.place;
    onTry(from.now);
  };
  const onKeyDown = (event: KeyboardEvent) => {
    if (event.key === 'Escape' && began.current) finish(false);
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
      aria-label={`${label}: column ${column + 1}, row ${row + 1}, ${width} wide, ${height} high. Arrows change it.`}
      onPointerDown={onPointerDown}
      onPointerMove={onPointerMove}
      onPointerUp={() => finish(true)}
      onPointerCancel={() => finish(false)}
      onKeyDown={onKeyDown}
    />
  );
}
