import type { KeyValue } from '@sorvik/core/data/values';
import { listOf } from '@sorvik/core/levers/listed';
import { mostPicked, type PickLever, pick } from '@sorvik/core/levers/pick';
import { added, inverted, type PickPosition, toggled } from '@sorvik/core/levers/pick-moves';
import { type KeyboardEvent, lazy, Suspense, useEffect, useMemo, useRef, useState } from 'react';
import { useLanguage } from '../../ui/language';
import { Problem } from '../../ui/Problem';
import { ListOption, useCombobox } from '../../ui/use-combobox';
import type { ControlProps } from '../control-kind';
import { usePickRows } from '../use-pick-rows';

const PasteList = lazy(() => import('../PasteList').then((module) => ({ default: module.PasteList })));

const LongRows = lazy(() => import('./LongRows').then((module) => ({ default: module.LongRows })));

const rowHeight = 28;
/** So many rows are drawn whether they are in sight or not. */
const mostAtOnce = 40;
/** So long nothing has moved from elsewhere, ms, before the list is put in order anew. */
const restTime = 600;
/** Shorter lists are taken in at a glance and need no search. */
const searchFrom = 9;

/** Scrolls a list just so far that a row of it is in sight. */
function intoSight(list: HTMLElement, top: number, height: number): void {
  const bottom = top + height - list.clientHeight;
  list.scrollTop = Math.max(bottom, Math.min(top, list.scrollTop));
}

/** A searchable checklist of a field's values. */
export function PickControl({
  lever,
  position,
  facts,
  problem,
  move: moveTo,
}: ControlProps<PickLever, PickPosition>) {
  const { locale, say } = useLanguage();
  // What is picked stands first; while it is picked here, nothing moves away under the pointer.
  const own = useRef(position);
  const [first, setFirst] = useState<ReadonlySet<KeyValue>>(() => new Set(position));
  useEffect(() => {
    if (pick.same(position, own.current)) return;
    // From elsewhere, as by a drag over marks: when that has come to rest.
    const rested = setTimeout(() => {
      own.current = position;
      setFirst(new Set(position));
    }, restTime);
    return () => clearTimeout(rested);
  }, [position]);
  const move = (next: PickPosition) => {
    own.current = next;
    moveTo(next);
  };
  const [search, setSearch] = useState('');
  const [pasting, setPasting] = useState(false);
  const scroller = useRef<HTMLDivElement>(null);
  const rows = usePickRows(lever, facts, search, first);
  const picked = useMemo(() => new Set(position), [position]);
  const [shown, setShown] = useState({ first: 0, last: 0 });
  const short = rows.length <= mostAtOnce;
  const onShown = (first: number, last: number) => {
    rows.look(first, last);
    if (first !== shown.first || last !== shown.last) setShown({ first, last });
  };
  useEffect(() => {
    if (short) rows.look(0, rows.length - 1);
  });

  const take = (index: number) => {
    const row = rows.at(index);
    if (!row) return;
    if ('value' in row) move(toggled(position, row.value));
    else {
      const all = row.values.every((value) => picked.has(value));
      const group = new Set(row.values);
      move(all ? position.filter((value) => !group.has(value)) : added(position, row.values));
    }
  };
  const { active, go, line, list, option, restart, onKeyDown } = useCombobox({
    count: rows.length,
    page: 6,
    onTake: take,
    onGo: (index) => intoSight(scroller.current!, index * rowHeight, rowHeight),
  });
  if (problem) return <Problem role="alert">{problem}</Problem>;
  const onListKeys = (event: KeyboardEvent) => {
    if (event.key === ' ') take(active);
    else if (event.key === 'Home' || event.key === 'End') go(event.key === 'Home' ? 0 : rows.length - 1);
    else if (event.key === 'a' && (event.ctrlKey || event.metaKey)) {
      if (rows.found) move(rows.found.slice(0, mostPicked));
    } else if (event.key === 'Escape') move(pick.clear(lever, position, facts));
    else return onKeyDown(event);
    event.preventDefault();
    event.stopPropagation();
  };
  const drawn = (index: number, top: number) => {
    const row = rows.at(index);
    const style = { top, height: rowHeight };
    const isActive = index === active ? ' is-active' : '';
    if (!row)
      return (
        <div key={index} className="sv-check is-coming" style={style} role="presentation">
          …
        </div>
      );
    const selected = 'value' in row ? picked.has(row.value) : row.values.every((value) => picked.has(value));
    return (
      <ListOption
        {...option(index)}
        key={'value' in row ? `v${String(row.value)}` : `g${String(row.group)}`}
        aria-selected={selected}
        aria-setsize={rows.length}
        aria-posinset={index + 1}
        aria-label={'value' in row ? undefined : say('pick.allOf', { group: row.text })}
        className={`sv-check${'value' in row ? (lever.groupBy ? ' is-inner' : '') : ' is-group'}${isActive}`}
        style={style}
        onPointerEnter={undefined}
        onMouseDown={undefined}
      >
        <span className="sv-check-box" aria-hidden="true" />
        <span className="sv-check-text" title={row.text}>
          {row.text}
        </span>
        <span className="sv-count">{locale.count('value' in row ? row.count : row.values.length)}</span>
      </ListOption>
    );
  };
  const here = listOf(facts, lever)?.map(({ value }) => value);
  const searching = search.trim() !== '';
  return (
    <>
      {rows.total >= searchFrom && (
        <input
          type="search"
          className="form-control form-control-sm"
          placeholder={say('find.in', { where: locale.count(rows.total) })}
          aria-label={say('find.in', { where: lever.name })}
          role="combobox"
          aria-expanded="true"
          {...line}
          value={search}
          onChange={(event) => {
            setSearch(event.target.value);
            restart();
          }}
        />
      )}
      <div
        className="sv-checklist"
        ref={scroller}
        role="listbox"
        {...list}
        aria-multiselectable="true"
        aria-label={say('pick.values', { lever: lever.name })}
        aria-activedescendant={
          short || (active >= shown.first && active <= shown.last) ? line['aria-activedescendant'] : undefined
        }
        tabIndex={0}
        onKeyDown={onListKeys}
        style={{ height: Math.min(7, Math.max(1, rows.length)) * rowHeight + 2 }}
      >
        <div style={{ height: rows.length * rowHeight, position: 'relative' }} role="presentation">
          {short ? (
            Array.from({ length: rows.length }, (_, index) => drawn(index, index * rowHeight))
          ) : (
            <Suspense fallback={null}>
              <LongRows
                count={rows.length}
                height={rowHeight}
                scroller={scroller}
                onShown={onShown}
                row={drawn}
              />
            </Suspense>
          )}
        </div>
        {rows.ready && rows.length === 0 && (
          <p className="sv-none">{searching ? say('find.none', { search }) : say('pick.noValues')}</p>
        )}
      </div>
      <div className="sv-lever-tools">
        {here && rows.found && (
          <button
            type="button"
            className="btn btn-link btn-sm"
            onClick={() => move((searching ? added(position, rows.found!) : here).slice(0, mostPicked))}
          >
            {say(searching ? 'pick.allFound' : 'pick.all')}
          </button>
        )}
        <button type="button" className="btn btn-link btn-sm" onClick={() => move([])}>
          {say('pick.none')}
        </button>
        {here && (
          <button
            type="button"
            className="btn btn-link btn-sm"
            onClick={() => move(inverted(position, here).slice(0, mostPicked))}
          >
            {say('pick.invert')}
          </button>
        )}
        <button
          type="button"
          className="btn btn-link btn-sm"
          aria-expanded={pasting}
          onClick={() => setPasting(!pasting)}
        >
          {say('pick.paste')}
        </button>
      </div>
      {pasting && (
        <Suspense fallback={null}>
          <PasteList
            lever={lever}
            facts={facts}
            onTake={(values) => {
              move(values);
              setPasting(false);
            }}
          />
        </Suspense>
      )}
    </>
  );
}
