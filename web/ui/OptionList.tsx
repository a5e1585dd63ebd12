import { arrowStep } from '@sorvik/view/arrow-step';
import { type KeyboardEvent, useMemo, useRef, useState } from 'react';
import { tell } from '../ui/tell';
import { hasWords } from './use-combobox';

export interface Option<T> {
  value: T;
  text: string;
  /** Said in small beside the text. */
  note?: string;
  disabled?: boolean;
}

interface Props<T> {
  label: string;
  options: Option<T>[];
  chosen: T | undefined;
  onChoose(value: T): void;
}

const searchFrom = 12;

/** One choice out of a list: arrows choose at once, so that what it changes can be watched. */
export function OptionList<T>({ label, options, chosen, onChoose }: Props<T>) {
  const [search, setSearch] = useState('');
  const list = useRef<HTMLDivElement>(null);
  const found = useMemo(() => options.filter(({ text }) => hasWords(text, search)), [options, search]);
  const chosenAt = found.findIndex(({ value }) => value === chosen);

  const onKeyDown = (event: KeyboardEvent) => {
    const step = arrowStep(event, { down: 'on' });
    if (!step || !Number.isFinite(step) || !found.length) return;
    event.preventDefault();
    let next = chosenAt;
    for (let tries = 0; tries < found.length; tries++) {
      next = (next + step + found.length) % found.length;
      if (!found[next]!.disabled) break;
    }
    onChoose(found[next]!.value);
    list.current?.querySelectorAll<HTMLElement>('[role=radio]')[next]?.focus();
  };
  return (
    <div className="sv-options">
      {options.length >= searchFrom && (
        <input
          type="search"
          className="form-control form-control-sm"
          placeholder={tell('ui.optionList.find')}
          aria-label={tell('ui.optionList.findInLabel', { label })}
          value={search}
          onChange={(event) => setSearch(event.target.value)}
        />
      )}
      <div role="radiogroup" aria-label={label} className="sv-option-list" ref={list} onKeyDown={onKeyDown}>
        {found.map(({ value, text, note, disabled }, i) => (
          <button
            key={text}
            type="button"
            role="radio"
            aria-checked={value === chosen}
            tabIndex={i === Math.max(0, chosenAt) ? 0 : -1}
            disabled={disabled}
            className="sv-option"
            onClick={() => onChoose(value)}
          >
            <span>{text}</span>
            {note && <small>{note}</small>}
          </button>
        ))}
        {!found.length && <p className="sv-none">{tell('ui.optionList.noMatchForSearch', { search })}</p>}
      </div>
    </div>
  );
}
