import { arrayMove } from '@dnd-kit/sortable';
import type { DatasetView } from '@sorvik/core/board/api-types';
import type { Board } from '@sorvik/core/board/board';
import { chartOf } from '@sorvik/core/board/board';
import type { Chart } from '@sorvik/core/board/chart';
import { idFrom } from '@sorvik/core/board/id';
import { english } from '@sorvik/core/messages/locale';
import { chartSentences } from '@sorvik/core/text/chart-sentences';
import { type SentenceGroup, type SentenceSubject, sentenceGroups } from '@sorvik/core/text/sentence-groups';
import { chartTitle } from '@sorvik/core/words/measure-text';
import { counted } from '@sorvik/core/words/plural';
import { type Sentence, sentenceText } from '@sorvik/core/words/sentence';
import { titleWithIds, titleWithNames } from '@sorvik/core/words/title-parts';
import { lazy, type ReactNode, Suspense, useState } from 'react';
import { useDatasetQuery } from '../app/api';
import { useAppDispatch } from '../app/store';
import { chartChosen, edit } from '../board/board-slice';
import { deskWords } from '../board/board-words';
import { useFormulas } from '../board/use-formulas';
import { Explained } from '../ui/Explained';
import { InlineText } from '../ui/InlineText';
import { Problem } from '../ui/Problem';
import { SortList, useSorted } from '../ui/SortList';
import { tell } from '../ui/tell';
import { AddSentence } from './AddSentence';
import { CopyChart } from './CopyChart';
import { SentenceTools } from './SentenceTools';
import { WordButton } from './WordButton';

const WorkingsPanel = lazy(() =>
  import('./workings/WorkingsPanel').then((module) => ({ default: module.WorkingsPanel })),
);

interface Props {
  board: Board;
  chart: Chart;
  onPoint(levers: string[]): void;
}

function SentenceLine({
  sentence,
  movable,
  ...props
}: Props & { sentence: Sentence; movable: boolean; dataset: DatasetView }) {
  const { board, chart, dataset, onPoint } = props;
  const words = deskWords(board, dataset);
  const { ref, isDragged, style, handle } = useSorted(
    sentence.id,
    tell('bench.sentenceDesk.moveSentence', { sentence: sentenceText(sentence) }),
    tell('bench.sentenceDesk.dragToReorderIfSeveral'),
    !movable,
  );
  return (
    <li
      ref={ref}
      data-part="sentence"
      data-off={sentence.off ? 'yes' : undefined}
      className={`sv-sentence${isDragged ? ' is-dragged' : ''}${sentence.off ? ' is-off' : ''}`}
      style={style}
      data-sentence={sentence.id}
      onPointerEnter={() => onPoint(sentence.levers)}
      onPointerLeave={() => onPoint([])}
    >
      {handle}
      <span>
        {sentence.parts.map((part, i) =>
          typeof part === 'string' ? (
            part
          ) : (
            <WordButton
              // biome-ignore lint/suspicious/noArrayIndexKey: the same slot can stand twice in a sentence; its place tells them apart
              key={`${part.slot}-${i}`}
              {...{ board, chart, dataset, words, sentence }}
              word={part}
            />
          ),
        )}
      </span>
      <SentenceTools {...{ board, chart, sentence }} />
      {sentence.note && <p className="sv-editor-note">{sentence.note}</p>}
      {sentence.problem && <Problem>{sentence.problem}</Problem>}
    </li>
  );
}

/** What an author works on most is open; the rest is said to be there. */
const openAtFirst: ReadonlySet<SentenceSubject> = new Set(['shown', 'lit']);

/** Sentences about one thing, under their heading; open once one has come, and while one has a problem. */
function Group({
  group,
  come,
  line,
}: {
  group: SentenceGroup;
  /** How many of them have come since the chart was selected. */
  come: number;
  line(sentence: Sentence): ReactNode;
}) {
  const { id, title, sentences } = group;
  const [open, setOpen] = useState(openAtFirst.has(id));
  const [seen, setSeen] = useState(0);
  if (come !== seen) {
    setSeen(come);
    if (come > seen) setOpen(true);
  }
  const isOpen = open || sentences.some(({ problem }) => problem);
  return (
    <section className="sv-sentence-group" aria-label={title}>
      <button type="button" aria-expanded={isOpen} onClick={() => setOpen(!isOpen)}>
        {title} <small>{counted(sentences.length, 'sentence', english)}</small>
      </button>
      {isOpen && <ul>{sentences.map(line)}</ul>}
    </section>
  );
}

/** The chart in hand, described in sentences whose words can be changed. */
export function SentenceDesk(props: Props) {
  const { board, chart } = props;
  const dispatch = useAppDispatch();
  const { data: dataset } = useDatasetQuery(chart.dataset);
  const words = deskWords(board, dataset);
  // What is wrong with a formula is said once it can be read.
  useFormulas(chart);
  const sentences = chartSentences(chart, board, words);
  // The order of cues is meaning: the first to set a property of the look has the say.
  const cues = sentences.filter(({ part }) => part?.[0] === 'cues');
  const onMove = (from: number, to: number) =>
    dispatch(
      edit(tell('bench.sentenceDesk.theOrderOfSentences'), (draft) => {
        const target = chartOf(draft, chart.id)!;
        target.cues = arrayMove(target.cues, from, to);
      }),
    );
  const groups = sentenceGroups(sentences);
  const [first] = useState(() => new Set(sentences.map(({ id }) => id)));
  const line = (sentence: Sentence) =>
    dataset && (
      <SentenceLine
        key={sentence.id}
        {...props}
        {...{ dataset, sentence }}
        movable={cues.length > 1 && cues.includes(sentence)}
      />
    );
  const [working, setWorking] = useState(false);
  const duplicate = () => {
    const id = idFrom(
      chart.id,
      board.charts.map((each) => each.id),
    );
    dispatch(
      edit(tell('bench.sentenceDesk.aCopyOfAChart'), (draft) => {
        const at = draft.charts.findIndex((each) => each.id === chart.id);
        const { place: _place, ...copy } = structuredClone(chart);
        draft.charts.splice(at + 1, 0, { ...copy, id });
      }),
    );
    dispatch(chartChosen(id));
  };
  const remove = () =>
    dispatch(
      edit(tell('bench.sentenceDesk.aChartRemoved'), (draft) => {
        draft.charts = draft.charts.filter((each) => each.id !== chart.id);
      }),
    );
  return (
    <section
      className="sv-desk"
      aria-label={tell('bench.sentenceDesk.sentencesOfTheSelectedChart')}
      id="sv-sentences"
      tabIndex={-1}
    >
      <header>
        <InlineText
          value={titleWithNames(chart.title ?? '', board)}
          label={tell('bench.sentenceDesk.titleOfTheChart')}
          className="sv-desk-title"
          placeholder={chartTitle({ ...chart, title: '' }, words)}
          mayBeEmpty
          onKeep={(title) =>
            dispatch(
              edit(tell('bench.sentenceDesk.title'), (draft) => {
                const target = chartOf(draft, chart.id)!;
                if (title) target.title = titleWithIds(title, board);
                else delete target.title;
              }),
            )
          }
        />
        <div
          className="sv-desk-sides"
          role="tablist"
          aria-label={tell('bench.sentenceDesk.whatIsShownOfThe')}
        >
          {(['sentences', 'workings'] as const).map((each) => (
            <Explained key={each} word={each} placement="top">
              <button
                type="button"
                role="tab"
                aria-selected={(each === 'workings') === working}
                onClick={() => setWorking(each === 'workings')}
              >
                {tell(each === 'workings' ? 'bench.sentenceDesk.workings' : 'bench.sentenceDesk.sentences')}
              </button>
            </Explained>
          ))}
        </div>
        <button type="button" className="btn btn-sm btn-quiet" onClick={duplicate}>
          {tell('bench.sentenceDesk.copyChart')}
        </button>
        <CopyChart board={board} chart={chart} />
        <button type="button" className="btn btn-sm btn-quiet" onClick={remove}>
          {tell('bench.sentenceDesk.removeChart')}
        </button>
      </header>
      {dataset && working ? (
        <Suspense fallback={<p className="sv-loading">{tell('bench.sentenceDesk.loading')}</p>}>
          <WorkingsPanel board={board} chart={chart} />
        </Suspense>
      ) : dataset ? (
        <SortList
          items={cues.map((sentence) => ({ id: sentence.id, name: sentenceText(sentence) }))}
          onMove={onMove}
        >
          {groups ? (
            groups.map((group) => (
              <Group
                key={group.id}
                group={group}
                come={group.sentences.filter(({ id }) => !first.has(id)).length}
                line={line}
              />
            ))
          ) : (
            <ul>{sentences.map(line)}</ul>
          )}
          <AddSentence {...{ board, chart, dataset, words }} />
        </SortList>
      ) : (
        <Problem>{tell('bench.sentenceDesk.theDatasetDatasetOfThis', { dataset: chart.dataset })}</Problem>
      )}
    </section>
  );
}
