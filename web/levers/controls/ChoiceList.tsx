import type { ChoiceItem, ChoiceLever, ChoicePosition } from '@sorvik/core/levers/choice';
import { choiceItems } from '@sorvik/core/levers/choice';
import { useEffect, useRef } from 'react';
import { Overlay, Popover } from 'react-bootstrap';
import { wholeInWindow } from '../../ui/Dropped';
import { useLanguage } from '../../ui/language';
import { hasWords, ListOption, useCombobox } from '../../ui/use-combobox';
import type { ControlProps } from '../control-kind';
import { useLongList } from '../use-long-list';
import { withAll } from './choice-items';

const mostShown = 500;
const focusOnce = (line: HTMLInputElement | null) => line?.focus({ preventScroll: true });

interface Props extends ControlProps<ChoiceLever, ChoicePosition> {
  target: HTMLElement;
  search: string;
  onSearch(search: string): void;
  onClose(refocus: boolean): void;
}

/** The searchable list under a choice's button. */
export default function ChoiceList({
  lever,
  position,
  facts,
  move,
  target,
  search,
  onSearch,
  onClose,
}: Props) {
  const shown = useRef<HTMLDivElement>(null);
  const { locale, say } = useLanguage();
  const here = choiceItems(lever, facts, locale);
  const long = useLongList(lever, facts, search, true);
  const all = withAll(lever, here ?? long?.items ?? [], locale);
  const items = all.filter(({ label }) => hasWords(label, search));
  const heldAt = items.findIndex((item) => item.value === position);
  const choose = (item: ChoiceItem | undefined) => {
    if (!item) return;
    move(item.value);
    onClose(true);
  };
  const { active, line, list, option, restart, onKeyDown } = useCombobox({
    count: Math.min(items.length, mostShown),
    begin: heldAt,
    page: 8,
    onTake: (index) => choose(items[index]),
    onEscape: () => onClose(true),
  });
  useEffect(() => {
    if (active >= 0)
      shown.current?.querySelector('[aria-selected=true]')?.scrollIntoView({ block: 'nearest' });
  }, [active]);
  return (
    <Overlay
      target={target}
      show
      placement="bottom-start"
      rootClose
      onHide={() => onClose(false)}
      transition={false}
      popperConfig={wholeInWindow}
    >
      <Popover className="sv-editor sv-drop-list" role="dialog" aria-label={lever.name}>
        <input
          type="search"
          role="combobox"
          aria-expanded="true"
          {...line}
          className="form-control form-control-sm"
          // Opened to be searched; it is put in its place only now, and the page does not follow it.
          ref={focusOnce}
          aria-label={say('find.in', { where: lever.name })}
          placeholder={say('find.in', { where: locale.count(long?.total ?? all.length) })}
          value={search}
          onChange={(event) => {
            onSearch(event.target.value);
            restart();
          }}
          onKeyDown={(event) => (event.key === 'Tab' ? onClose(false) : onKeyDown(event))}
        />
        <div className="sv-offers" role="listbox" {...list} aria-label={lever.name} ref={shown}>
          {items.slice(0, mostShown).map((item, i) => (
            <ListOption
              key={String(item.value)}
              {...option(i)}
              data-held={item.value === position || undefined}
            >
              {item.label}
            </ListOption>
          ))}
        </div>
        {!items.length && <p className="sv-none">{say('find.none', { search })}</p>}
        {(items.length > mostShown || (long && long.found > long.items.length)) && (
          <p className="sv-none">{say('find.more')}</p>
        )}
      </Popover>
    </Overlay>
  );
}
