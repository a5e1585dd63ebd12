import { arrowStep } from '@sorvik/view/arrow-step';
import { type ComponentProps, type KeyboardEvent, type MouseEvent, useId, useState } from 'react';

interface Props {
  /** How many options there are. */
  count: number;
  /** Where it begins, as long as nobody has moved; left out, at the first. */
  begin?: number;
  /** How many options Page Up and Page Down pass. */
  page?: number;
  /** The text line has its own Home and End; left out for a list that has the focus itself. */
  typing?: boolean;
  onTake(index: number): void;
  onEscape?(): void;
  /** The option that the keys lead to has changed: it may have to be brought into sight. */
  onGo?(index: number): void;
}

/**
 * A line to search in, and the list of what was found: arrows lead through the list while the focus stays in the line,
 * Enter takes. One behaviour for all that is searched; the properties that it gives go to the line, the list and each
 * option.
 */
export function useCombobox({ count, begin = 0, page, typing = true, onTake, onEscape, onGo }: Props) {
  const id = useId();
  const [moved, setActive] = useState<number | null>(null);
  const active = Math.max(0, Math.min(count - 1, moved ?? begin));
  const go = (index: number) => {
    const next = Math.max(0, Math.min(count - 1, index));
    setActive(next);
    onGo?.(next);
  };
  const onKeyDown = (event: KeyboardEvent) => {
    const rules = {
      down: 'on' as const,
      ...(page ? { page } : {}),
      ...(typing ? { typing: true as const } : {}),
    };
    const by = arrowStep(event, rules);
    if (by !== undefined) go(active + by);
    else if (event.key === 'Enter') count > 0 && onTake(active);
    else if (event.key === 'Escape' && onEscape) onEscape();
    else return;
    event.preventDefault();
    event.stopPropagation();
  };
  const optionId = (index: number) => `${id}-${index}`;
  return {
    active,
    go,
    /** The search has changed: it begins anew. */
    restart: (at: number | null = 0) => setActive(at),
    onKeyDown,
    line: {
      'aria-controls': id,
      'aria-activedescendant': count ? optionId(active) : undefined,
      onKeyDown,
    },
    list: { id },
    option: (index: number) => ({
      id: optionId(index),
      'aria-selected': index === active,
      onPointerEnter: () => setActive(index),
      // The focus stays in the line.
      onMouseDown: (event: MouseEvent) => event.preventDefault(),
      onClick: () => {
        setActive(index);
        onTake(index);
      },
    }),
  };
}

/** One of what was found. The line above the list answers the keyboard for it, and keeps the focus. */
export function ListOption(props: ComponentProps<'div'>) {
  // biome-ignore lint/a11y/useFocusableInteractive: see above
  return <div role="option" {...props} />;
}

/** Whether a text has all the words, in any order, that are searched for. */
export function hasWords(text: string, search: string): boolean {
  const within = text.toLocaleLowerCase();
  return search
    .toLocaleLowerCase()
    .split(/\s+/)
    .every((word) => within.includes(word));
}
