import type { Board } from '@sorvik/core/board/board';
import { chartOf } from '@sorvik/core/board/board';
import {
  type Clipping,
  clipChart,
  clipLever,
  clippingIn,
  clipSentence,
  datasetsRead,
  pasteClipping,
} from '@sorvik/core/edit/clipping';
import { chartSentences } from '@sorvik/core/text/chart-sentences';
import { produce } from 'immer';
import { useEffect } from 'react';
import { editingApi } from '../app/editing-api';
import { noticed } from '../app/notices-slice';
import { useAppDispatch, useAppStore } from '../app/store';
import { edit } from '../board/board-slice';
import { deskWords } from '../board/board-words';
import { tell } from '../ui/tell';
import { isTyping } from './is-typing';

const names = {
  chart: tell('bench.useClipboard.theChart'),
  sentence: tell('bench.useClipboard.theSentence'),
  lever: tell('bench.useClipboard.theLever'),
} as const;

/** What has the focus: a lever, a sentence, or else the chart in hand. */
function clippingOf(board: Board, inHand: string | undefined): Clipping | null {
  const focus = document.activeElement;
  const lever = board.levers.find(
    ({ id }) => id === focus?.closest<HTMLElement>('[data-lever]')?.dataset.lever,
  );
  if (lever) return clipLever(lever);
  const chart = chartOf(board, inHand);
  if (!chart) return null;
  const said = focus?.closest<HTMLElement>('[data-sentence]')?.dataset.sentence;
  const sentence =
    said === undefined
      ? undefined
      : chartSentences(chart, board, deskWords(board, undefined)).find(({ id }) => id === said);
  return sentence?.part ? clipSentence(board, chart, sentence.part) : clipChart(board, chart);
}

/**
 * Copies what has the focus with Ctrl C, and puts it on this or another board with Ctrl V: a chart, a sentence, or a lever,
 * with what it needs. A text that is selected, or typed, is copied as any text.
 */
export function useClipboard(): void {
  const dispatch = useAppDispatch();
  const store = useAppStore();
  useEffect(() => {
    const onCopy = (event: ClipboardEvent) => {
      const { document: board, chart } = store.getState().board;
      if (!board || isTyping(event.target) || !getSelection()?.isCollapsed) return;
      const clipping = clippingOf(board, chart);
      if (!clipping) return;
      event.clipboardData?.setData('text/plain', JSON.stringify(clipping));
      event.preventDefault();
      dispatch(
        noticed({ text: tell('bench.useClipboard.copiedNamesCtrlVPuts', { names: names[clipping.sorvik] }) }),
      );
    };
    const onPaste = (event: ClipboardEvent) => {
      const { document: board, chart } = store.getState().board;
      if (!board || isTyping(event.target)) return;
      const clipping = clippingIn(event.clipboardData?.getData('text/plain') ?? '');
      if (!clipping) return;
      event.preventDefault();
      const known = editingApi.endpoints.datasets.select()(store.getState()).data ?? [];
      const missing = datasetsRead(clipping).find((id) => !known.some((dataset) => dataset.id === id));
      if (missing !== undefined) {
        dispatch(noticed({ text: tell('bench.useClipboard.itReadsADatasetThat', { missing }) }));
        return;
      }
      try {
        // Tried on a copy first: what is damaged leaves the board alone.
        produce(board, (draft) => void pasteClipping(draft, clipping, chart));
      } catch {
        dispatch(noticed({ text: tell('bench.useClipboard.whatWasCopiedIsDamaged') }));
        return;
      }
      dispatch(
        edit(
          tell('bench.useClipboard.namesThatWasCopied', { names: names[clipping.sorvik] }),
          (draft) => void pasteClipping(draft, clipping, chart),
        ),
      );
    };
    document.addEventListener('copy', onCopy);
    document.addEventListener('paste', onPaste);
    return () => {
      document.removeEventListener('copy', onCopy);
      document.removeEventListener('paste', onPaste);
    };
  }, [dispatch, store]);
}
