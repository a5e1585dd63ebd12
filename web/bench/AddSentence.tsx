import type { DatasetView } from '@sorvik/core/board/api-types';
import type { Board } from '@sorvik/core/board/board';
import type { Chart } from '@sorvik/core/board/chart';
import { enabledChart } from '@sorvik/core/board/enabled';
import { notOffered } from '@sorvik/core/edit/offers/not-offered';
import { offersFor } from '@sorvik/core/edit/offers/offers-for';
import type { Vocabulary } from '@sorvik/core/words/vocabulary';
import { useState } from 'react';
import { Overlay, Popover } from 'react-bootstrap';
import { useAppDispatch } from '../app/store';
import { edit } from '../board/board-slice';
import { useReadingRange } from '../chart/use-reading-range';
import { wholeInWindow } from '../ui/Dropped';
import { tell } from '../ui/tell';
import { hasWords, ListOption, useCombobox } from '../ui/use-combobox';

interface Props {
  board: Board;
  chart: Chart;
  dataset: DatasetView;
  words: Vocabulary;
}

/** So many sentences are in sight before anything is said. */
const mostFirst = 4;

/** A line to type on: offers the sentences that make sense on the chart in hand. */
export function AddSentence({ board, chart, dataset, words }: Props) {
  const dispatch = useAppDispatch();
  const [input, setInput] = useState<HTMLInputElement | null>(null);
  const [text, setText] = useState('');
  const [open, setOpen] = useState(false);
  const isLit = chart.cues.some(({ effect }) => effect === 'light') || chart.compare !== undefined;
  const range = useReadingRange(enabledChart(chart), board, open || !isLit);
  const context = { chart, board, dataset, words, ...(range ? { range } : {}) };
  const fits = (each: { text: string }) => hasWords(each.text, text);
  const all = open || !isLit ? offersFor(context) : [];
  const offers = open ? all.filter(fits) : [];
  // Whoever looks for something by name is told why it is not there.
  const missed = open && text.trim() ? notOffered(context).filter(fits) : [];
  const accept = (index: number) => {
    const offer = offers[index];
    if (!offer) return;
    dispatch(edit(tell('bench.addSentence.aSentence'), offer.accept));
    setText('');
    setOpen(false);
  };
  const { line, list, option, restart } = useCombobox({
    count: offers.length,
    onTake: accept,
    onEscape: () => setOpen(false),
    onGo: () => setOpen(true),
  });
  // Nothing lights up yet: the first that could be said can be had by one press.
  const first = isLit ? [] : all.slice(0, mostFirst);
  return (
    <div className="sv-say">
      <input
        ref={setInput}
        role="combobox"
        {...line}
        aria-expanded={open}
        aria-label={tell('bench.addSentence.addASentenceToThis')}
        placeholder={tell('bench.addSentence.addASentence')}
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
      <Overlay
        target={input}
        show={open}
        placement="top-start"
        transition={false}
        popperConfig={wholeInWindow}
      >
        <Popover className="sv-editor">
          <div
            className="sv-offers"
            role="listbox"
            {...list}
            aria-label={tell('bench.addSentence.sentences')}
          >
            {offers.map((offer, i) => (
              <ListOption key={offer.id} {...option(i)}>
                {offer.text}
              </ListOption>
            ))}
            {!offers.length && !missed.length && (
              <p className="sv-none">{tell('bench.addSentence.noMatchingSentenceForThis')}</p>
            )}
            {missed.map(({ id, text: wanted, why }) => (
              <p key={id} className="sv-none" data-part="not-offered">
                {tell('bench.addSentence.wantedNotHereWhy', { wanted, why })}
              </p>
            ))}
          </div>
        </Popover>
      </Overlay>
      {first.length > 0 && (
        <ul className="sv-first-offers" aria-label={tell('bench.addSentence.forExample')}>
          {first.map((offer) => (
            <li key={offer.id}>
              <button
                type="button"
                className="btn btn-sm btn-quiet"
                onClick={() => dispatch(edit(tell('bench.addSentence.aSentence'), offer.accept))}
              >
                {offer.text}
              </button>
            </li>
          ))}
        </ul>
      )}
    </div>
  );
}
