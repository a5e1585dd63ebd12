import { type KeyboardEvent, type ReactNode, useEffect, useRef } from 'react';
import { Overlay, Popover } from 'react-bootstrap';
import type { Placement } from 'react-bootstrap/types';
import { focusable } from './focusable';

/** How what dropped was left: by Esc, by Enter in a field of it, by Tab past its end, or by a press elsewhere. */
export type Leaving = 'escape' | 'enter' | 'tab' | 'elsewhere';

interface Props {
  /** What it dropped from, which gets the focus back. */
  trigger: HTMLElement | null;
  show: boolean;
  title: string;
  placement: Placement;
  /** Enter ends it too, but for where it begins a new line. */
  endsOnEnter?: boolean;
  onLeave(how: Leaving): void;
  children: ReactNode;
}

/** What is typed or chosen in comes before what is pressed. */
const fields =
  '.cm-content, input:enabled, textarea:enabled, select:enabled, [role=radio][aria-checked=true], [role=radio]:enabled';

/** Nothing of it lies outside the window: rather over its trigger. */
export const wholeInWindow = {
  modifiers: [{ name: 'preventOverflow', options: { altAxis: true, padding: 6 } }],
};

const arrows: Record<string, number> = { ArrowDown: 1, ArrowUp: -1 };

/**
 * What drops from a button or a word: it takes the focus when it opens and gives it back when it closes. Arrows lead
 * through a list of acts in it, and Tab past its end leaves it for what follows its trigger.
 */
export function Dropped(props: Props) {
  const { trigger, show, title, placement, endsOnEnter = false, onLeave, children } = props;
  const body = useRef<HTMLDivElement>(null);
  useEffect(() => {
    if (!show) return;
    const within = body.current!;
    const first = within.querySelector<HTMLElement>(fields) ?? focusable(within)[0] ?? within;
    // It is put in its place only now: the page does not follow it.
    if (!within.contains(document.activeElement)) first.focus({ preventScroll: true });
    return () => {
      if (document.activeElement === document.body || document.activeElement === null)
        trigger?.focus({ preventScroll: true });
    };
  }, [show, trigger]);

  const leave = (how: Leaving) => {
    trigger?.focus();
    onLeave(how);
  };
  const onKeyDown = (event: KeyboardEvent) => {
    // A field may have a use of its own for a key, as an editor of formulas while it offers something.
    if (event.defaultPrevented) return;
    const { target, key, shiftKey } = event;
    if (key === 'Tab') {
      const stops = focusable(body.current!);
      // From the trigger the browser goes on by itself.
      if (target === (shiftKey ? stops[0] : stops.at(-1)) || !stops.length) leave('tab');
      return;
    }
    const by = arrows[key];
    if (by && target instanceof HTMLElement && target.matches('.sv-option')) {
      const acts = focusable(body.current!).filter((each) => each.matches('.sv-option'));
      acts.at((acts.indexOf(target) + by) % acts.length)?.focus();
    } else if (key === 'Escape') leave('escape');
    else if (key === 'Enter' && endsOnEnter && !(target instanceof HTMLTextAreaElement)) leave('enter');
    else return;
    event.preventDefault();
    event.stopPropagation();
  };
  return (
    <Overlay
      target={trigger}
      show={show}
      placement={placement}
      rootClose
      rootCloseEvent="mousedown"
      onHide={({ target, type }) => {
        // Esc is heard inside, where a field may have a use of its own for it; the trigger closes what it has opened.
        if (type !== 'keydown' && type !== 'keyup' && !trigger?.contains(target as Node))
          onLeave('elsewhere');
      }}
      transition={false}
      popperConfig={wholeInWindow}
    >
      <Popover className="sv-editor" role="dialog" aria-label={title}>
        {/* biome-ignore lint/a11y/noStaticElementInteractions: keys are caught on their way out */}
        <div ref={body} tabIndex={-1} onKeyDown={onKeyDown}>
          {children}
        </div>
      </Popover>
    </Overlay>
  );
}
