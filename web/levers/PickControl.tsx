import { type PickPosition, pick } from '@sorvik/core/levers/pick';
import { inverted, toggled } from '@sorvik/core/levers/pick-moves';
import { keyText } from '@sorvik/core/words/key-text';
import { useVirtualizer } from '@tanstack/react-virtual';
import { type KeyboardEvent, useId, useMemo, useRef, useState } from 'react';
import type { ControlProps } from './control-kind';
import { useListed } from './use-listed';

const rowHeight = 28;
/** Shorter lists are taken in at a glance and need no search. */
const searchFrom = 9;

/** A searchable checklist of a field's values. */
export function PickControl({ lever, position, move }: ControlProps) {
  const held = position as PickPosition;
  const { values, type, problem } = useListed(lever);
  const [search, setSearch] = useState('');
  const [active, setActive] = useState(0);
  const id = useId();
  const scroller = useRef<HTMLDivElement>(null);

  const items = useMemo(
    () =>
      (values ?? []).map(({ value, count }) => ({ value, count, text: keyText(value, type, lever.grain) })),
    [values, type, lever.grain],
  );
  const found = useMemo(() => {
    const wanted = search.trim().toLocaleLowerCase();
    return wanted ? items.filter(({ text }) => text.toLocaleLowerCase().includes(wanted)) : items;
  }, [items, search]);
  const picked = useMemo(() => new Set(held), [held]);
  const settled = values && pick.settle(lever, held, values, (value) => keyText(value, type, lever.grain));
  const rows = useVirtualizer({
    count: found.length,
    getScrollElement: () => scroller.current,
    estimateSize: () => rowHeight,
    overscan: 6,
  });

  if (problem)
    return (
      <p className="sv-problem" role="alert">
        {problem}
      </p>
    );
  const go = (index: number) => {
    const next = Math.max(0, Math.min(found.length - 1, index));
    setActive(next);
    rows.scrollToIndex(next);
  };
  const onKeyDown = (event: KeyboardEvent) => {
    const steps: Record<string, number> = {
      ArrowDown: active + 1,
      ArrowUp: active - 1,
      Home: 0,
      End: found.length - 1,
      PageDown: active + 6,
      PageUp: active - 6,
    };
    const item = found[active];
    if (event.key in steps) go(steps[event.key]!);
    else if ((event.key === ' ' || event.key === 'Enter') && item) move(toggled(held, item.value));
    else if (event.key === 'a' && (event.ctrlKey || event.metaKey)) move(found.map(({ value }) => value));
    else if (event.key === 'Escape') move(pick.clear(lever, held));
    else return;
    event.preventDefault();
  };
  const all = items.map(({ value }) => value);
  return (
    <>
      {items.length >= searchFrom && (
        <input
          type="search"
          className="form-control form-control-sm"
          placeholder={`Find in ${items.length.toLocaleString('en')}`}
          aria-label={`Find in ${lever.name}`}
          value={search}
          onChange={(event) => {
            setSearch(event.target.value);
            setActive(0);
          }}
        />
      )}
      <div
        className="sv-checklist"
        ref={scroller}
        role="listbox"
        aria-multiselectable="true"
        aria-label={`Values of ${lever.name}`}
        aria-activedescendant={found.length ? `${id}-${active}` : undefined}
        tabIndex={0}
        onKeyDown={onKeyDown}
        style={{ height: Math.min(7, Math.max(1, found.length)) * rowHeight + 2 }}
      >
        <div style={{ height: rows.getTotalSize(), position: 'relative' }} role="presentation">
          {rows.getVirtualItems().map(({ index, start }) => {
            const { value, count, text } = found[index]!;
            return (
              // biome-ignore lint/a11y/useKeyWithClickEvents: the list itself answers the keyboard for its options
              // biome-ignore lint/a11y/useFocusableInteractive: focus stays on the list, as for any listbox
              <div
                key={String(value)}
                id={`${id}-${index}`}
                role="option"
                aria-selected={picked.has(value)}
                aria-setsize={found.length}
                aria-posinset={index + 1}
                className={index === active ? 'sv-check is-active' : 'sv-check'}
                style={{ top: start, height: rowHeight }}
                onClick={() => {
                  setActive(index);
                  move(toggled(held, value));
                }}
              >
                <span className="sv-tick" aria-hidden="true" />
                <span className="sv-check-text" title={text}>
                  {text}
                </span>
                <span className="sv-count">{count.toLocaleString('en')}</span>
              </div>
            );
          })}
        </div>
        {values && found.length === 0 && (
          <p className="sv-none">{search ? `Nothing like "${search}".` : 'No values.'}</p>
        )}
      </div>
      <div className="sv-lever-tools">
        <button
          type="button"
          className="btn btn-link btn-sm"
          disabled={!values}
          onClick={() => move(search ? [...new Set([...held, ...found.map(({ value }) => value)])] : all)}
        >
          {search ? 'add found' : 'all'}
        </button>
        <button type="button" className="btn btn-link btn-sm" disabled={!values} onClick={() => move([])}>
          none
        </button>
        <button
          type="button"
          className="btn btn-link btn-sm"
          disabled={!values}
          onClick={() => move(inverted(held, all))}
        >
          invert
        </button>
      </div>
      {settled?.notice && <p className="sv-notice">{settled.notice}</p>}
    </>
  );
}
