import type { DrawnShow } from '@sorvik/core/board/drawn-show';
import type { Positions } from '@sorvik/core/levers/lever-kind';
import { heldText } from '@sorvik/core/levers/levers-held';
import { localeOf } from '@sorvik/core/messages/locale';
import type { ChartResult } from '@sorvik/core/pipeline/stage';
import { valueRows } from '@sorvik/core/text/value-rows';
import { chartTitle } from '@sorvik/core/words/measure-text';
import { vocabularyOf } from '@sorvik/core/words/vocabulary';
import { createRoot } from 'react-dom/client';
import { renderToStaticMarkup } from 'react-dom/server';
import { Provider } from 'react-redux';
import { MemoryRouter, Route, Routes } from 'react-router';
import { makeStore } from '../app/store';
import { paintedCharts } from '../chart/painted-charts';
import { Show } from '../show/Show';
import { say } from '../ui/say';

/** A page is looked at again after so long, ms, and given up after so long. */
const between = 4;
const longest = 5000;
/** What stands with the charts, as what can be done with them, comes so long after them, ms. */
const untilWhole = 80;

const wait = (ms: number) => new Promise((go) => setTimeout(go, ms));

/** The values of a chart, for viewers whose browser runs no scripts. */
function Values({ result, positions }: { result: ChartResult; positions: Positions }) {
  const { board, dataset, engine, facts } = result.input;
  const words = vocabularyOf(board, dataset, engine);
  const { head, rows, more } = valueRows(result, words);
  return (
    <table>
      <caption dir="auto">
        {chartTitle(result.chart, words, heldText(board, { positions, facts }, words))}
      </caption>
      <thead>
        <tr>
          {head.map((text) => (
            <th key={text} scope="col">
              {text}
            </th>
          ))}
        </tr>
      </thead>
      <tbody>
        {rows.map(({ cells, state }, i) => (
          // biome-ignore lint/suspicious/noArrayIndexKey: rows are written once
          <tr key={i} data-is={state}>
            {cells.map((text, j) =>
              j ? (
                // biome-ignore lint/suspicious/noArrayIndexKey: so are their cells
                <td key={j}>{text}</td>
              ) : (
                <th key="name" scope="row">
                  {text}
                </th>
              ),
            )}
          </tr>
        ))}
      </tbody>
      {more > 0 && (
        <tfoot>
          <tr>
            <td colSpan={head.length}>{say(words.locale, 'drawn.more', { n: more })}</td>
          </tr>
        </tfoot>
      )}
    </table>
  );
}

/** Draws a show as its page does, with the very same program. Null where some of it cannot be drawn in time. */
export async function drawShow(id: string): Promise<DrawnShow | null> {
  const results = new Map<string, ChartResult>();
  const unlisten = paintedCharts.listen((chart, result) => results.set(chart, result));
  const { documentElement: root } = document;
  for (const name of ['lang', 'dir', 'data-bs-theme']) root.removeAttribute(name);
  const host = document.createElement('div');
  document.body.replaceChildren(host);
  const store = makeStore();
  const react = createRoot(host);
  react.render(
    <Provider store={store}>
      <MemoryRouter initialEntries={[`/show/${encodeURIComponent(id)}`]}>
        <Routes>
          <Route path="/show/:id" element={<Show />} />
        </Routes>
      </MemoryRouter>
    </Provider>,
  );
  try {
    const isThere = () => {
      const [one] = results.values();
      return one !== undefined && results.size === one.input.board.charts.length;
    };
    const until = performance.now() + longest;
    while (!isThere() && performance.now() < until) await wait(between);
    if (!isThere()) return null;
    await wait(untilWhole);
    const positions = store.getState().positions.now;
    const locale = localeOf([...results.values()][0]!.input.board.locale);
    return {
      html: host.innerHTML,
      lang: root.getAttribute('lang') ?? 'en',
      dir: root.getAttribute('dir') ?? 'ltr',
      ground: root.getAttribute('data-bs-theme') ?? 'light',
      values: [
        renderToStaticMarkup(
          <p className="sv-drawn-note" data-part="drawn-note">
            {say(locale, 'drawn.noScripts')}
          </p>,
        ),
        ...[...results.values()].map((result) =>
          renderToStaticMarkup(<Values result={result} positions={positions} />),
        ),
      ].join(''),
    };
  } finally {
    unlisten();
    react.unmount();
    document.body.replaceChildren();
  }
}
