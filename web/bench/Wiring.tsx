import type { DatasetView } from '@sorvik/core/board/api-types';
import { type Board, chartOf } from '@sorvik/core/board/board';
import type { Chart } from '@sorvik/core/board/chart';
import { switchPart } from '@sorvik/core/board/switch-off';
import { cannotLight } from '@sorvik/core/edit/offers/cannot-light';
import { offersWith } from '@sorvik/core/edit/offers/offers-with';
import type { Lever } from '@sorvik/core/levers/registry';
import { english } from '@sorvik/core/messages/locale';
import { say } from '@sorvik/core/messages/say';
import { boardDoubts } from '@sorvik/core/text/doubts';
import { wiresOf } from '@sorvik/core/text/wiring';
import { chartTitle } from '@sorvik/core/words/measure-text';
import { useCallback, useMemo, useState } from 'react';
import { useAppDispatch } from '../app/store';
import { edit } from '../board/board-slice';
import { deskWords } from '../board/board-words';
import { useKnownFacts } from '../levers/facts-context';
import { Dropped } from '../ui/Dropped';
import { tell } from '../ui/tell';
import { useReturnFocus } from '../ui/use-return-focus';
import { WiringPicture } from './WiringPicture';
import { removeSentence } from './words/at-path';

interface CellProps {
  board: Board;
  chart: Chart;
  lever: Lever;
  dataset: DatasetView | undefined;
}

/** What a lever does to a chart, to be dropped or added to. */
function CellEditor({ board, chart, lever, dataset }: CellProps) {
  const dispatch = useAppDispatch();
  const words = deskWords(board, dataset);
  const wires = wiresOf(board, chart.id, lever.id, words);
  const cannot = dataset ? cannotLight({ chart, board, words: deskWords(board, dataset) }, lever) : null;
  const offers = useMemo(
    () => (dataset ? offersWith({ chart, board, dataset, words: deskWords(board, dataset) }, lever.id) : []),
    [chart, board, dataset, lever.id],
  );
  return (
    <div className="sv-wire-editor">
      {wires.map(({ text, sentence, part, off }) => (
        <p key={`${text}${sentence ?? ''}`}>
          {sentence ?? tell('bench.wiring.leverStandsTextChangeThat', { lever: lever.name, text })}
          {part && (
            <span>
              <button
                type="button"
                className="btn btn-sm btn-quiet"
                onClick={() =>
                  dispatch(
                    edit(
                      off
                        ? tell('bench.wiring.aSentenceSwitchedOn')
                        : tell('bench.wiring.aSentenceSwitchedOff'),
                      (draft) => switchPart(chartOf(draft, chart.id)!, { part }, !off),
                    ),
                  )
                }
              >
                {off ? tell('bench.wiring.switchOn') : tell('bench.wiring.switchOff')}
              </button>
              <button
                type="button"
                className="btn btn-sm btn-quiet"
                aria-label={tell('bench.wiring.removeSentence', { sentence: String(sentence) })}
                onClick={() =>
                  dispatch(
                    edit(tell('bench.wiring.aWireDropped'), (draft) =>
                      removeSentence(chartOf(draft, chart.id)!, { id: '', parts: [], levers: [], part }),
                    ),
                  )
                }
              >
                {tell('bench.wiring.remove')}
              </button>
            </span>
          )}
        </p>
      ))}
      {offers.length > 0 && <p className="sv-editor-head">{tell('bench.wiring.add')}</p>}
      {offers.map((offer) => (
        <button
          key={offer.id}
          type="button"
          className="sv-option"
          onClick={() => dispatch(edit(tell('bench.wiring.aWire'), offer.accept))}
        >
          {offer.text}
        </button>
      ))}
      {cannot && (
        <p className="sv-none" data-part="not-offered">
          {cannot}
        </p>
      )}
      {!offers.length && !wires.length && !cannot && (
        <p className="sv-none">{tell('bench.wiring.leverCannotAffectThisChart', { lever: lever.name })}</p>
      )}
    </div>
  );
}

function Cell(props: CellProps) {
  const { board, chart, lever, dataset } = props;
  const [button, setButton] = useState<HTMLButtonElement | null>(null);
  const [open, setOpen] = useState(false);
  const words = deskWords(board, dataset);
  const wires = wiresOf(board, chart.id, lever.id, words);
  const title = chartTitle(chart, words);
  const texts = [
    ...new Set(wires.map(({ text, off }) => (off ? tell('bench.wiring.textOff', { text }) : text))),
  ];
  return (
    <td>
      <button
        type="button"
        ref={setButton}
        className={texts.length ? 'sv-wire' : 'sv-wire is-none'}
        aria-haspopup="dialog"
        aria-expanded={open}
        aria-label={tell('bench.wiring.leverOnChart', {
          lever: lever.name,
          title,
          does: texts.join(', ') || say(english, 'lever.nothing'),
        })}
        onClick={() => setOpen(!open)}
      >
        {texts.length ? texts.map((text) => <span key={text}>{text}</span>) : '–'}
      </button>
      <Dropped
        trigger={button}
        show={open}
        title={tell('bench.wiring.leverAndTitle', { lever: lever.name, title })}
        placement="bottom"
        onLeave={() => setOpen(false)}
      >
        {open && <CellEditor {...props} />}
      </Dropped>
    </td>
  );
}

interface Props {
  board: Board;
  datasets: DatasetView[] | undefined;
  onLever(id: string): void;
  onChart(id: string): void;
  onClose(): void;
}

/** Levers down, charts across, and in each cell what the one does to the other. */
export function Wiring({ board, datasets, onLever, onChart, onClose }: Props) {
  useReturnFocus();
  const { facts } = useKnownFacts();
  const datasetOf = (id: string) => datasets?.find((dataset) => dataset.id === id);
  const wordsOf = useCallback(
    (id: string) =>
      deskWords(
        board,
        datasets?.find((dataset) => dataset.id === id),
      ),
    [board, datasets],
  );
  const doubts = boardDoubts(board, facts, wordsOf);
  return (
    <section
      aria-label={tell('bench.wiring.wiring')}
      onKeyDown={(event) => event.key === 'Escape' && onClose()}
    >
      <header>
        <h1>{tell('bench.wiring.wiring')}</h1>
        <span className="sv-hint">{tell('bench.wiring.whatEachLeverDoesOn')}</span>
        {/* biome-ignore lint/a11y/noAutofocus: it lies over the board, and Esc leads back at once */}
        <button type="button" className="btn btn-sm btn-quiet" autoFocus onClick={onClose}>
          {tell('bench.wiring.backToTheBoard')}
        </button>
      </header>
      {board.levers.length && board.charts.length ? (
        <>
          <WiringPicture
            board={board}
            wordsOf={wordsOf}
            doubts={doubts}
            onLever={(id) => {
              onLever(id);
              onClose();
            }}
            onChart={(id) => {
              onChart(id);
              onClose();
            }}
          />
          <h2>{tell('bench.wiring.allPairs')}</h2>
          <p className="sv-hint">{tell('bench.wiring.clickACellToChange')}</p>
          <div
            className="sv-wiring"
            // biome-ignore lint/a11y/noNoninteractiveTabindex: what scrolls is reached by the keyboard
            tabIndex={0}
            role="region"
            aria-label={tell('bench.wiring.leversAndCharts')}
          >
            <table>
              <thead>
                <tr>
                  <td />
                  {board.charts.map((chart) => (
                    <th key={chart.id} scope="col">
                      <button
                        type="button"
                        onClick={() => {
                          onChart(chart.id);
                          onClose();
                        }}
                      >
                        {chartTitle(chart, deskWords(board, datasetOf(chart.dataset)))}
                      </button>
                    </th>
                  ))}
                </tr>
              </thead>
              <tbody>
                {board.levers.map((lever) => (
                  <tr key={lever.id}>
                    <th scope="row">
                      <button
                        type="button"
                        onClick={() => {
                          onLever(lever.id);
                          onClose();
                        }}
                      >
                        {lever.name}
                      </button>
                    </th>
                    {board.charts.map((chart) => (
                      <Cell
                        key={chart.id}
                        board={board}
                        chart={chart}
                        lever={lever}
                        dataset={datasetOf(chart.dataset)}
                      />
                    ))}
                  </tr>
                ))}
              </tbody>
            </table>
          </div>
        </>
      ) : (
        <p className="sv-none">
          {board.levers.length
            ? tell('bench.wiring.thisBoardHasNoChart')
            : tell('bench.wiring.thisBoardHasNoLever')}
        </p>
      )}
    </section>
  );
}
