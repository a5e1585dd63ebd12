import type { DatasetView } from '@sorvik/core/board/api-types';
import { type Board, chartOf } from '@sorvik/core/board/board';
import type { Chart } from '@sorvik/core/board/chart';
import { switchPart } from '@sorvik/core/board/switch-off';
import { cannotLight } from '@sorvik/core/edit/offers/cannot-light';
import { offersWith } from '@sorvik/core/edit/offers/offers-with';
import type { Lever } from '@sorvik/core/levers/registry';
import { boardDoubts } from '@sorvik/core/text/doubts';
import { wiresOf } from '@sorvik/core/text/wiring';
import { chartTitle } from '@sorvik/core/words/measure-text';
import { useCallback, useMemo, useState } from 'react';
import { useAppDispatch } from '../app/store';
import { edit } from '../board/board-slice';
import { deskWords } from '../board/board-words';
import { useKnownFacts } from '../levers/facts-context';
import { Dropped } from '../ui/Dropped';
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
          {sentence ?? `${lever.name} stands ${text}: change that in the words themselves.`}
          {part && (
            <span>
              <button
                type="button"
                className="btn btn-sm btn-quiet"
                onClick={() =>
                  dispatch(
                    edit(off ? 'a sentence switched on' : 'a sentence switched off', (draft) =>
                      switchPart(chartOf(draft, chart.id)!, { part }, !off),
                    ),
                  )
                }
              >
                {off ? 'Switch on' : 'Switch off'}
              </button>
              <button
                type="button"
                className="btn btn-sm btn-quiet"
                aria-label={`Remove: ${sentence}`}
                onClick={() =>
                  dispatch(
                    edit('a wire dropped', (draft) =>
                      removeSentence(chartOf(draft, chart.id)!, { id: '', parts: [], levers: [], part }),
                    ),
                  )
                }
              >
                Remove
              </button>
            </span>
          )}
        </p>
      ))}
      {offers.length > 0 && <p className="sv-editor-head">Add</p>}
      {offers.map((offer) => (
        <button
          key={offer.id}
          type="button"
          className="sv-option"
          onClick={() => dispatch(edit('a wire', offer.accept))}
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
        <p className="sv-none">
          {lever.name} cannot affect this chart: the chart does not show what the lever holds.
        </p>
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
  const texts = [...new Set(wires.map(({ text, off }) => (off ? `${text} (off)` : text)))];
  return (
    <td>
      <button
        type="button"
        ref={setButton}
        className={texts.length ? 'sv-wire' : 'sv-wire is-none'}
        aria-haspopup="dialog"
        aria-expanded={open}
        aria-label={`${lever.name} and ${title}: ${texts.join(', ') || 'nothing'}`}
        onClick={() => setOpen(!open)}
      >
        {texts.length ? texts.map((text) => <span key={text}>{text}</span>) : '–'}
      </button>
      <Dropped
        trigger={button}
        show={open}
        title={`${lever.name} and ${title}`}
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
    <section aria-label="Wiring" onKeyDown={(event) => event.key === 'Escape' && onClose()}>
      <header>
        <h1>Wiring</h1>
        <span className="sv-hint">What each lever does on each chart.</span>
        {/* biome-ignore lint/a11y/noAutofocus: it lies over the board, and Esc leads back at once */}
        <button type="button" className="btn btn-sm btn-quiet" autoFocus onClick={onClose}>
          Back to the board
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
          <h2>All pairs</h2>
          <p className="sv-hint">Click a cell to change what a lever does.</p>
          {/* biome-ignore lint/a11y/noNoninteractiveTabindex: what scrolls is reached by the keyboard */}
          <div className="sv-wiring" tabIndex={0} role="region" aria-label="Levers and charts">
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
          {board.levers.length ? 'This board has no chart yet.' : 'This board has no lever yet.'}
        </p>
      )}
    </section>
  );
}
