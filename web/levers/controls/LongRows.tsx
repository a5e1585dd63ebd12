import { useVirtualizer } from '@tanstack/react-virtual';
import { type ReactNode, type RefObject, useEffect } from 'react';

interface Props {
  count: number;
  height: number;
  scroller: RefObject<HTMLElement | null>;
  /** Which rows are drawn now, from the first to the last. */
  onShown(first: number, last: number): void;
  row(index: number, top: number): ReactNode;
}

/** Of a long list only the rows in sight. */
export function LongRows({ count, height, scroller, onShown, row }: Props) {
  const rows = useVirtualizer({
    count,
    getScrollElement: () => scroller.current,
    estimateSize: () => height,
    overscan: 6,
  }).getVirtualItems();
  const [first, last] = [rows[0]?.index ?? 0, rows.at(-1)?.index ?? 0];
  useEffect(() => onShown(first, last));
  return rows.map(({ index, start }) => row(index, start));
}
