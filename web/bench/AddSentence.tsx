import type { DatasetView } from '@sorvik/core/board/api-types';
import type { Board } from '@sorvik/core/board/board';
import type { Chart } from '@sorvik/core/board/chart';
import { enabledChart } from '@sorvik/core/board/enabled';
import { readingRange } from '@sorvik/core/conditions/figures';
import { offersFor } from '@sorvik/core/edit/offers/offers-for';
import { readingsOf } from '@sorvik/core/pipeline/readings-of';
import type { Vocabulary } from '@sorvik/core/words/vocabulary';
import { type KeyboardEvent, useId, useMemo, useState } from 'react';
import { Overlay, Popover } from 'react-bootstrap';
import { useAppDispatch } from '../app/store';
import { edit } from '../board/board-slice';
import { useChartData } from '../chart/use-cube';

interface Props {
  board: Board;
  chart: Chart;
  dataset: DatasetView;
  words: Vocabulary;
}

/** A line to type on: offers the sentences that make sense on the chart in hand. */
export function AddSentence({ board, chart, dataset, words }: Props) {
  const dispatch = useAppDispatch();
  const id = useId();
  const [input, setInput] = useState<HTMLInputElement | null>(null);
  const [text, setText] = useState('');
  const [open, setOpen] = useState(false);
  const [active, setActive] = useState(0);
  const wanted = text.toLocaleLowerCase().split(/\s+/).filter(Boolean);
  const { cube } = useChartData(enabledChart(chart), board);
  const range = useMemo(
    () => (open && cube ? readingRange(readingsOf(cube, chart, [])) : undefined),
    [open, cube, chart],
  );
  const offers = open
    ? offersFor({ chart, board, dataset, words, ...(range ? { range } : {}) }).filter((offer) =>
        wanted.every((part) => offer.text.toLocaleLowerCase().includes(part)),
      )
    : [];
  const accept = (index: number) => {
    const offer = offers[index];
    if (!offer) return;
    dispatch(edit('a sentence', offer.accept));
    setText('');
    setOpen(false);
  };
  const onKeyDown = (event: KeyboardEvent) => {
    if (event.key === 'ArrowDown' || event.key === 'ArrowUp') {
      setOpen(true);
      setActive((at) => Math.max(0, Math.min(offers.length - 1, at + (event.key === 'ArrowDown' ? 1 : -1))));
    } else if (event.key === 'Enter') accept(active);
    else if (event.key === 'Escape') setOpen(false);
    else return;
    event.preventDefault();
  };
  return (
    <div className="sv-say">
      <input
        ref={setInput}
        role="combobox"
        aria-expanded={open}
        aria-controls={id}
        aria-activedescendant={open && offers.length ? `${id}-${active}` : undefined}
        aria-label="Say something more of this chart"
        placeholder="+ say something more .."
        value={text}
        onChange={(event) => {
          setText(event.target.value);
          setActive(0);
          setOpen(true);
        }}
        onFocus={() => setOpen(true)}
        onClick={() => setOpen(true)}
        onBlur={() => setOpen(false)}
        onKeyDown={onKeyDown}
      />
      <Overlay target={input} show={open} placement="top-start" transition={false}>
        <Popover className="sv-editor">
          <div className="sv-offers" role="listbox" id={id} aria-label="Sentences">
            {offers.map((offer, i) => (
              // biome-ignore lint/a11y/useKeyWithClickEvents: the line above answers the keyboard
              // biome-ignore lint/a11y/useFocusableInteractive: focus stays in the line above
              <div
                key={offer.id}
                id={`${id}-${i}`}
                role="option"
                aria-selected={i === active}
                onPointerEnter={() => setActive(i)}
                onMouseDown={(event) => event.preventDefault()}
                onClick={() => accept(i)}
              >
                {offer.text}
              </div>
            ))}
            {!offers.length && <p className="sv-none">No sentence like that fits this chart.</p>}
          </div>
        </Popover>
      </Overlay>
    </div>
  );
}
