import type { DatasetView } from '@sorvik/core/board/api-types';
import type { Board } from '@sorvik/core/board/board';
import { chartOf, grounds } from '@sorvik/core/board/board';
import { offersFor } from '@sorvik/core/edit/offers/offers-for';
import { usualLocale } from '@sorvik/core/messages/locale';
import { chartTitle } from '@sorvik/core/words/measure-text';
import { useEffect } from 'react';
import { useAppDispatch } from '../app/store';
import { chartChosen, edit, redo, undo } from '../board/board-slice';
import { deskWords } from '../board/board-words';
import { tell } from '../ui/tell';
import { boardLanguages } from './board-languages';
import { inLanguage, onGround } from './board-settings';
import { isTyping } from './is-typing';
import { benchKeys } from './Keys';
import type { Action } from './Palette';
import { pressable } from './pressable';

export interface BenchDoors {
  palette(): void;
  keys(): void;
}

/** The keys of the bench: undo and its opposite, the list of keys, and everything that can be done. */
export function useBenchKeys(doors: BenchDoors): void {
  const dispatch = useAppDispatch();
  const { palette, keys } = doors;
  useEffect(() => {
    const onKeyDown = (event: KeyboardEvent) => {
      const key = event.key.toLowerCase();
      const control = event.ctrlKey || event.metaKey;
      if (control && key === 'k') palette();
      else if (isTyping(event.target)) return;
      else if (control && key === 'z') dispatch(event.shiftKey ? redo() : undo());
      else if (control && key === 'y') dispatch(redo());
      else if (key === '?' && !control) keys();
      else return;
      event.preventDefault();
    };
    window.addEventListener('keydown', onKeyDown);
    return () => window.removeEventListener('keydown', onKeyDown);
  }, [dispatch, palette, keys]);
}

/** What can be done with the board and the chart in hand, for finding it by its words: listed here, or by its button. */
/** Puts the focus where something is operated, once the palette has given it back. */
const focusOn = (selector: string) => {
  setTimeout(() => document.querySelector<HTMLElement>(selector)?.focus());
};

export function boardActions(
  board: Board,
  inHand: string | undefined,
  datasets: readonly DatasetView[],
  dispatch: ReturnType<typeof useAppDispatch>,
  doors: {
    wiring(): void;
    versions(): void;
    keys(): void;
    addChart(): void;
    lever(id: string): void;
    selectAll(): void;
    download(withData: boolean): void;
  },
): Action[] {
  const wordsOf = (dataset: string) =>
    deskWords(
      board,
      datasets.find(({ id }) => id === dataset),
    );
  const chart = chartOf(board, inHand);
  const dataset = chart && datasets.find(({ id }) => id === chart.dataset);
  const said = chart && dataset ? offersFor({ chart, board, dataset, words: wordsOf(dataset.id) }) : [];
  const listed: Action[] = [
    { id: 'wiring', text: tell('bench.useActions.seeTheWiringOfLevers'), run: doors.wiring },
    { id: 'versions', text: tell('bench.useActions.seeTheVersionsOfThe'), run: doors.versions },
    { id: 'chart', text: tell('bench.useActions.addAChart'), run: doors.addChart },
    { id: 'undo', text: tell('bench.useActions.undo'), keys: benchKeys[1]![0], run: () => dispatch(undo()) },
    { id: 'redo', text: tell('bench.useActions.redo'), run: () => dispatch(redo()) },
    { id: 'all', text: tell('bench.useActions.selectEverythingOnTheBoard'), run: doors.selectAll },
    { id: 'file', text: tell('bench.useActions.saveAsAFile'), run: () => doors.download(false) },
    {
      id: 'file with data',
      text: tell('bench.useActions.saveAsAFileWithData'),
      run: () => doors.download(true),
    },
    ...([undefined, ...grounds] as const)
      .filter((ground) => ground !== board.ground)
      .map(
        (ground): Action => ({
          id: `ground ${ground}`,
          text: ground
            ? tell('bench.useActions.showViewersTheGroundTheme', { ground })
            : tell('bench.useActions.showViewersTheThemeOf'),
          run: () => dispatch(onGround(ground)),
        }),
      ),
    ...boardLanguages(board.locale)
      .filter(({ value }) => value !== (board.locale ?? usualLocale))
      .map(
        ({ value, text }): Action => ({
          id: `language ${value}`,
          text: tell('bench.useActions.languageForViewersText', { text }),
          run: () => dispatch(inLanguage(value)),
        }),
      ),
    { id: 'keys', text: tell('bench.useActions.showKeyboardShortcuts'), keys: '?', run: doors.keys },
    ...board.charts.map(
      (each): Action => ({
        id: `chart ${each.id}`,
        text: tell('bench.useActions.selectChart', { title: chartTitle(each, wordsOf(each.dataset)) }),
        run() {
          dispatch(chartChosen(each.id));
          focusOn(`[data-chart="${CSS.escape(each.id)}"] svg[tabindex]`);
        },
      }),
    ),
    ...board.levers.flatMap((lever): Action[] => [
      {
        id: `move ${lever.id}`,
        text: tell('bench.useActions.moveLever', { lever: lever.name }),
        run: () =>
          focusOn(
            `[data-lever="${CSS.escape(lever.id)}"] [tabindex="0"], [data-lever="${CSS.escape(lever.id)}"] input`,
          ),
      },
      {
        id: `lever ${lever.id}`,
        text: tell('bench.useActions.editLever', { lever: lever.name }),
        run: () => doors.lever(lever.id),
      },
    ]),
    ...said.map(
      (offer): Action => ({
        id: `say ${offer.id}`,
        text: tell('bench.useActions.addSentenceText', { text: offer.text }),
        run: () => dispatch(edit(tell('bench.useActions.aSentence'), offer.accept)),
      }),
    ),
  ];
  return [...listed, ...pressable(document, new Set(listed.map(({ text }) => text)))];
}
