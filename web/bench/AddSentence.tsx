import type { DatasetView } from '@sorvik/core/board/api-types';
import type { Board } from '@sorvik/core/board/board';
import type { Chart } from '@sorvik/core/board/chart';
import { enabledChart } from '@sorvik/core/board/enabled';
import { readingRange } from '@sorvik/core/conditions/figures';
import { offersFor } from '@sorvik/core/edit/offers/offers-for';
import { readingsOf } from '@sorvik/core/pipeline/readings-of';
import type { Vocabulary } from '@sorvik/core/words/vocabulary';
import { useMemo, useState } from 'react';
import { Overlay, Popover } from 'react-bootstrap';
import { useAppDispatch } from '../app/store';
import { edit } from '../board/board-slice';
import { useChartData } from '../chart/use-cube';
import { hasWords, ListOption, useCombobox } from '../ui/use-combobox';

interface Props {
  board: Board;
  chart: Chart;
  dataset: DatasetView;
  words: Vocabulary;
}

/** A line to type on: offers the sentences that make sense on the chart in hand. */
export function AddSentence({ board, chart, dataset, words }: Props) {
  const dispatch = useAppDispatch();
  const [input, setInput] = useState<HTMLInputElement | null>(null);
  const [text, setText] = useState('');
  const [open, setOpen] = useState(false);
  const { cube } = useChartData(enabledChart(chart), board);
  const range = useMemo(
    () => (open && cube ? readingRange(readingsOf(cube, chart, [])) : undefined),
    [open, cube, chart],
  );
  const offers = open
    ? offersFor({ chart, board, dataset, words, ...(range ? { range } : {}) }).filter((offer) =>
        hasWords(offer.text, text),
      )
    : [];
  const accept = (index: number) => {
    const offer = offers[index];
    if (!offer) return;
    dispatch(edit('a sentence', offer.accept));
    setText('');
    setOpen(false);
  };
  const { line, list, option, restart } = useCombobox({
    count: offers.length,
    onTake: accept,
    onEscape: () => setOpen(false),
    onGo: () => setOpen(true),
  });
  return (
    <div className="sv-say">
      <input
        ref={setInput}
        role="combobox"
        {...line}
        aria-expanded={open}
        aria-label="Say something more of this chart"
        placeholder="+ say something more .."
        value={text}
        onChange={(event) => {
          setText(event.target.value);
          restart();
          setOpen(true);
        }}
        onFocus={() => setOpen(true)}
        onClick={() => setOpen(true)}
        onBlur={() => setOpen(false)}
      />
      <Overlay target={input} show={open} placement="top-start" transition={false}>
        <Popover className="sv-editor">
          <div className="sv-offers" role="listbox" {...list} aria-label="Sentences">
            {offers.map((offer, i) => (
              <ListOption key={offer.id} {...option(i)}>
                {offer.text}
              </ListOption>
            ))}
            {!offers.length && <p className="sv-none">No sentence like that fits this chart.</p>}
          </div>
        </Popover>
      </Overlay>
    </div>
  );
}
