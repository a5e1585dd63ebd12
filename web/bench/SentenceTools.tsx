import type { DatasetView } from '@sorvik/core/board/api-types';
import type { Board } from '@sorvik/core/board/board';
import { chartOf } from '@sorvik/core/board/board';
import type { Chart } from '@sorvik/core/board/chart';
import { canSwitchOff, switchPart } from '@sorvik/core/board/switch-off';
import { sayOn } from '@sorvik/core/edit/say-on';
import { english } from '@sorvik/core/messages/locale';
import { chartSentences } from '@sorvik/core/text/chart-sentences';
import { chartTitle } from '@sorvik/core/words/measure-text';
import { counted } from '@sorvik/core/words/plural';
import { type Sentence, sentenceText } from '@sorvik/core/words/sentence';
import { produce } from 'immer';
import { useState } from 'react';
import { useDatasetsQuery } from '../app/editing-api';
import { noticed } from '../app/notices-slice';
import { useAppDispatch } from '../app/store';
import { edit } from '../board/board-slice';
import { deskWords } from '../board/board-words';
import { DropButton } from '../ui/DropButton';
import { tell } from '../ui/tell';
import { removeSentence } from './words/at-path';

interface Props {
  board: Board;
  chart: Chart;
  sentence: Sentence;
}

/** Why a sentence makes no sense on another chart; undefined where it does. */
function unfit(
  board: Board,
  from: Chart,
  to: Chart,
  sentence: Sentence,
  datasets: DatasetView[],
): string | undefined {
  const words = deskWords(
    board,
    datasets.find(({ id }) => id === to.dataset),
  );
  const wrong = (chart: Chart) =>
    chartSentences(chart, board, words).flatMap(({ problem }) => (problem ? [problem] : []));
  const before = new Set(wrong(to));
  return wrong(produce(to, (draft) => sayOn(draft, from, sentence))).find((each) => !before.has(each));
}

function OtherCharts({ board, chart, sentence, close }: Props & { close(): void }) {
  const dispatch = useAppDispatch();
  const { data: datasets = [] } = useDatasetsQuery();
  const others = board.charts
    .filter(({ id }) => id !== chart.id)
    .map((other) => ({
      id: other.id,
      title: chartTitle(
        other,
        deskWords(
          board,
          datasets.find(({ id }) => id === other.dataset),
        ),
      ),
      why: unfit(board, chart, other, sentence, datasets),
    }));
  const possible = others.filter(({ why }) => !why).map(({ id }) => id);
  const [chosen, setChosen] = useState<string[]>([]);
  const say = () => {
    dispatch(
      edit(tell('bench.sentenceTools.aSentenceSaidOnOther'), (draft) => {
        for (const id of chosen) sayOn(chartOf(draft, id)!, chart, sentence);
      }),
    );
    dispatch(
      noticed({
        text: tell('bench.sentenceTools.sentenceCopiedToChosen', {
          chosen: counted(chosen.length, 'chart', english),
        }),
      }),
    );
    close();
  };
  if (!others.length) return <p className="sv-none">{tell('bench.sentenceTools.thereIsNoOtherChart')}</p>;
  return (
    <div className="sv-say-on">
      <p className="sv-editor-head">{tell('bench.sentenceTools.copyThisSentenceTo')}</p>
      {others.map(({ id, title, why }) => (
        <label key={id} className={why ? 'is-unfit' : ''}>
          <input
            type="checkbox"
            disabled={why !== undefined}
            checked={chosen.includes(id)}
            onChange={({ target }) =>
              setChosen(target.checked ? [...chosen, id] : chosen.filter((each) => each !== id))
            }
          />
          <span>
            {title}
            {why && <small>{why}</small>}
          </span>
        </label>
      ))}
      <div className="sv-row">
        <button type="button" className="btn btn-sm btn-primary" disabled={!chosen.length} onClick={say}>
          {tell('bench.sentenceTools.copy')}
        </button>
        {possible.length > 1 && (
          <button
            type="button"
            className="btn btn-sm btn-quiet"
            onClick={() => setChosen(chosen.length < possible.length ? possible : [])}
          >
            {chosen.length < possible.length
              ? tell('bench.sentenceTools.allPossible')
              : tell('bench.sentenceTools.none')}
          </button>
        )}
      </div>
    </div>
  );
}

/** What can be done with a sentence as a whole: said on other charts, switched off, removed. */
export function SentenceTools(props: Props) {
  const { chart, sentence } = props;
  const dispatch = useAppDispatch();
  if (!sentence.part) return null;
  const text = sentenceText(sentence);
  const remove = () =>
    dispatch(
      edit(tell('bench.sentenceTools.aSentenceRemoved'), (draft) => {
        removeSentence(chartOf(draft, chart.id)!, sentence);
      }),
    );
  const turn = () =>
    dispatch(
      edit(
        sentence.off
          ? tell('bench.sentenceTools.aSentenceSwitchedOn')
          : tell('bench.sentenceTools.aSentenceSwitchedOff'),
        (draft) => {
          switchPart(chartOf(draft, chart.id)!, sentence, !sentence.off);
        },
      ),
    );
  return (
    <span className="sv-sentence-tools">
      <DropButton
        label={tell('bench.sentenceTools.copyTo')}
        name={tell('bench.sentenceTools.copyToOtherChartsText', { text })}
        title={tell('bench.sentenceTools.copyThisSentenceToOther')}
        placement="top-end"
      >
        {(close) => <OtherCharts {...props} close={close} />}
      </DropButton>
      {canSwitchOff(sentence) && (
        <button
          type="button"
          className="btn btn-sm btn-quiet"
          aria-label={`${sentence.off ? tell('bench.sentenceTools.switchOn') : tell('bench.sentenceTools.switchOff')}: ${text}`}
          onClick={turn}
        >
          {sentence.off ? tell('bench.sentenceTools.switchOn') : tell('bench.sentenceTools.switchOff')}
        </button>
      )}
      <button
        type="button"
        className="sv-remove"
        aria-label={tell('bench.sentenceTools.removeText', { text })}
        title={tell('bench.sentenceTools.removeThisSentence')}
        onClick={remove}
      >
        ×
      </button>
    </span>
  );
}
