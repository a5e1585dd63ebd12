import {
  type ChoiceItem,
  type ChoiceLever,
  type ChoicePosition,
  choice,
  choiceItems,
} from '@sorvik/core/levers/choice';
import { arrowStep } from '@sorvik/view/arrow-step';
import { type KeyboardEvent, lazy, Suspense, useRef, useState } from 'react';
import { useLanguage } from '../../ui/language';
import type { ControlProps } from '../control-kind';
import { withAll } from './choice-items';

const loadList = () => import('./ChoiceList');
const ChoiceList = lazy(loadList);

type Props = ControlProps<ChoiceLever, ChoicePosition>;

/** Up to this many stand side by side. */
const sideBySide = 5;

/** So many letters find room side by side in the column of levers; more stand below each other, none broken. */
const besideLetters = 30;
const lettersOf = (items: readonly ChoiceItem[]): number =>
  items.reduce((sum, { label }) => sum + label.length + 3, 0);

function Segments({ lever, position, move, items }: Props & { items: ChoiceItem[] }) {
  const group = useRef<HTMLDivElement>(null);
  const at = Math.max(
    0,
    items.findIndex((item) => item.value === position),
  );
  const onKeyDown = (event: KeyboardEvent) => {
    const by = arrowStep(event, { down: 'on' });
    if (by === undefined) return;
    event.preventDefault();
    const ends = { [Number.NEGATIVE_INFINITY]: 0, [Number.POSITIVE_INFINITY]: items.length - 1 };
    const next = ends[by] ?? (at + by + items.length) % items.length;
    move(items[next]!.value);
    group.current?.querySelectorAll<HTMLElement>('[role=radio]')[next]?.focus();
  };
  return (
    <div
      className={lettersOf(items) > besideLetters ? 'sv-segments is-list' : 'sv-segments'}
      role="radiogroup"
      aria-label={lever.name}
      ref={group}
      onKeyDown={onKeyDown}
    >
      {items.map((item, i) => (
        <button
          key={String(item.value)}
          type="button"
          role="radio"
          aria-checked={i === at}
          tabIndex={i === at ? 0 : -1}
          onClick={() => move(item.value)}
        >
          {item.label}
        </button>
      ))}
    </div>
  );
}

/** A button that reads as the value, with a searchable list under it. */
function ChoiceDrop({ inline, ...props }: Props & { inline?: boolean }) {
  const { lever, position, facts } = props;
  const { locale } = useLanguage();
  const [open, setOpen] = useState(false);
  /** What is typed before the list is there is searched for in it. */
  const [search, setSearch] = useState('');
  const button = useRef<HTMLButtonElement>(null);
  const text = choice.summary(lever, position, facts, locale);
  return (
    <>
      <button
        type="button"
        ref={button}
        className={inline ? 'sv-inline-lever' : 'sv-drop'}
        aria-haspopup="dialog"
        aria-expanded={open}
        aria-label={`${lever.name}: ${text}`}
        onPointerEnter={loadList}
        onFocus={loadList}
        onClick={() => setOpen(!open)}
        onKeyDown={(event) => {
          const { key, ctrlKey, metaKey, altKey } = event;
          const isLetter = key.length === 1 && key !== ' ' && !ctrlKey && !metaKey && !altKey;
          if (isLetter) setSearch(search + key);
          else if (key !== 'ArrowDown' || open) return;
          event.preventDefault();
          setOpen(true);
        }}
      >
        {text}
      </button>
      {open && button.current && (
        <Suspense fallback={null}>
          <ChoiceList
            {...props}
            target={button.current}
            search={search}
            onSearch={setSearch}
            onClose={(refocus) => {
              setOpen(false);
              setSearch('');
              if (refocus) button.current?.focus();
            }}
          />
        </Suspense>
      )}
    </>
  );
}

/** One of a few side by side; one of many from a list. */
export function ChoiceControl(props: Props) {
  const { locale } = useLanguage();
  const found = choiceItems(props.lever, props.facts, locale);
  const items = found && withAll(props.lever, found, locale);
  if (items && items.length <= sideBySide) return <Segments {...props} items={items} />;
  return <ChoiceDrop {...props} />;
}

export const InlineChoice = (props: Props) => <ChoiceDrop {...props} inline />;
