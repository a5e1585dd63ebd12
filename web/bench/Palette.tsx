import { type KeyboardEvent, useEffect, useId, useRef, useState } from 'react';

/** Something that can be done, found by its words. */
export interface Action {
  id: string;
  text: string;
  /** The keys that do the same. */
  keys?: string;
  run(): void;
}

interface Props {
  actions(): readonly Action[];
  onClose(): void;
}

const most = 12;

/** Everything that can be done here, found by typing a few letters of its words. */
export function Palette({ actions, onClose }: Props) {
  const [text, setText] = useState('');
  const [active, setActive] = useState(0);
  const [all] = useState(actions);
  const back = useRef(document.activeElement);
  const list = useRef<HTMLDivElement>(null);
  const id = useId();
  const wanted = text.toLocaleLowerCase().split(/\s+/).filter(Boolean);
  const fitting = all.filter((action) =>
    wanted.every((part) => action.text.toLocaleLowerCase().includes(part)),
  );
  const found = fitting.slice(0, most);
  useEffect(
    () => () => {
      if (back.current instanceof HTMLElement) back.current.focus();
    },
    [],
  );
  const close = (action?: Action) => {
    onClose();
    action?.run();
  };
  const onKeyDown = (event: KeyboardEvent) => {
    const step = { ArrowDown: 1, ArrowUp: -1 }[event.key];
    if (step) setActive((at) => Math.max(0, Math.min(found.length - 1, at + step)));
    else if (event.key === 'Enter') found[active] && close(found[active]);
    else if (event.key === 'Escape') close();
    else return;
    event.preventDefault();
    event.stopPropagation();
  };
  return (
    <div className="sv-palette" ref={list}>
      <input
        // biome-ignore lint/a11y/noAutofocus: it is opened to be typed into
        autoFocus
        role="combobox"
        aria-expanded="true"
        aria-controls={id}
        aria-activedescendant={found.length ? `${id}-${active}` : undefined}
        aria-label="What to do"
        placeholder="What to do .."
        value={text}
        onChange={(event) => {
          setText(event.target.value);
          setActive(0);
        }}
        onKeyDown={onKeyDown}
        onBlur={() => onClose()}
      />
      <div role="listbox" id={id} aria-label="What can be done">
        {found.map((action, i) => (
          // biome-ignore lint/a11y/useKeyWithClickEvents: the line above answers the keyboard
          // biome-ignore lint/a11y/useFocusableInteractive: focus stays in the line above
          <div
            key={action.id}
            id={`${id}-${i}`}
            role="option"
            aria-selected={i === active}
            onPointerEnter={() => setActive(i)}
            onMouseDown={(event) => event.preventDefault()}
            onClick={() => close(action)}
          >
            {action.text}
            {action.keys && <kbd>{action.keys}</kbd>}
          </div>
        ))}
        {!found.length && <p className="sv-none">Nothing here is called that.</p>}
      </div>
      {fitting.length > most && <small>{fitting.length - most} more: go on typing.</small>}
    </div>
  );
}
