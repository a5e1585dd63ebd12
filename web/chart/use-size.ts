import { type RefObject, useLayoutEffect, useState } from 'react';

export interface Size {
  width: number;
  height: number;
}

/** The inner size of an element, px, as it changes. */
export function useSize(ref: RefObject<HTMLElement | null>): Size | null {
  const [size, setSize] = useState<Size | null>(null);
  useLayoutEffect(() => {
    const element = ref.current;
    if (!element) return;
    const read = () =>
      setSize((last) => {
        const next = { width: Math.floor(element.clientWidth), height: Math.floor(element.clientHeight) };
        return last && last.width === next.width && last.height === next.height ? last : next;
      });
    read();
    const observer = new ResizeObserver(read);
    observer.observe(element);
    return () => observer.disconnect();
  }, [ref]);
  return size;
}
