import type { ChoiceItem, ChoiceLever, ChoicePosition } from '@sorvik/core/levers/choice';
import { choiceItems } from '@sorvik/core/levers/choice';
import { type KeyboardEvent, useEffect, useId, useRef, useState } from 'react';
import { Overlay, Popover } from 'react-bootstrap';
import type { ControlProps } from '../control-kind';
import { useLongList } from '../use-long-list';
import { withAll } from './choice-items';

const mostShown = 500;

interface Props extends ControlProps<ChoiceLever, ChoicePosition> {
  target: HTMLElement;
  onClose(refocus: boolean): void;
}

/** The searchable list under a choice's button. */
export default function ChoiceList({ lever, position, facts, move, target, onClose }: Props) {
  const id = useId();
  const [search, setSearch] = useState('');
  const [active, setActive] = useState<number | null>(null);
  const list = useRef<HTMLDivElement>(null);
  const here = choiceItems(lever, facts);
  const long = useLongList(lever, facts, search, true);
  const all = withAll(lever, here ?? long?.items ?? []);
  const wanted = search.trim().toLocaleLowerCase();
  const items = wanted ? all.filter(({ label }) => label.toLocaleLowerCase().includes(wanted)) : all;
  const heldAt = items.findIndex((item) => item.value === position);
  const at = Math.min(items.length - 1, active ?? Math.max(0, heldAt));
  useEffect(() => {
    if (at >= 0) list.current?.querySelector('[aria-selected=true]')?.scrollIntoView({ block: 'nearest' });
  }, [at]);
  const choose = (item: ChoiceItem | undefined) => {
    if (!item) return;
    move(item.value);
    onClose(true);
  };
  const onKeyDown = (event: KeyboardEvent) => {
    const last = items.length - 1;
    const steps: Record<string, number> = {
      ArrowDown: Math.min(last, at + 1),
      ArrowUp: Math.max(0, at - 1),
      PageDown: Math.min(last, at + 8),
      PageUp: Math.max(0, at - 8),
    };
    if (event.key in steps) setActive(steps[event.key]!);
    else if (event.key === 'Enter') choose(items[at]);
    else if (event.key === 'Escape') onClose(true);
    else if (event.key === 'Tab') return onClose(false);
    else return;
    event.preventDefault();
    event.stopPropagation();
  };
  return (
    <Overlay
      target={target}
      show
      placement="bottom-start"
      rootClose
      onHide={() => onClose(false)}
      transition={false}
    >
      <Popover className="sv-editor sv-drop-list" role="dialog" aria-label={lever.name}>
        <input
          type="search"
          role="combobox"
          className="form-control form-control-sm"
          // biome-ignore lint/a11y/noAutofocus: the list was opened to be searched
          autoFocus
          aria-expanded="true"
          aria-controls={`${id}-list`}
          aria-activedescendant={items.length ? `${id}-${at}` : undefined}
          aria-label={`Find in ${lever.name}`}
          placeholder={`Find in ${(long?.total ?? all.length).toLocaleString('en')}`}
          value={search}
          onChange={(event) => {
            setSearch(event.target.value);
            setActive(0);
          }}
          onKeyDown={onKeyDown}
        />
        <div className="sv-offers" role="listbox" id={`${id}-list`} aria-label={lever.name} ref={list}>
          {items.slice(0, mostShown).map((item, i) => (
            // biome-ignore lint/a11y/useKeyWithClickEvents: the search line answers the keyboard
            // biome-ignore lint/a11y/useFocusableInteractive: focus stays in the search line
            <div
              key={String(item.value)}
              id={`${id}-${i}`}
              role="option"
              aria-selected={i === at}
              data-held={item.value === position || undefined}
              onPointerEnter={() => setActive(i)}
              onMouseDown={(event) => event.preventDefault()}
              onClick={() => choose(item)}
            >
              {item.label}
            </div>
          ))}
        </div>
        {!items.length && <p className="sv-none">Nothing like "{search}".</p>}
        {(items.length > mostShown || (long && long.found > long.items.length)) && (
          <p className="sv-none">There are more: type to find them.</p>
        )}
      </Popover>
    </Overlay>
  );
}
