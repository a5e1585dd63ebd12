import { leverOf } from '@sorvik/core/board/board';
import type { Chart } from '@sorvik/core/board/chart';
import { type Cue, type CueResting, cueRestings, isStandIn } from '@sorvik/core/board/cue';
import type { Measure } from '@sorvik/core/board/measure';
import { conditionKinds } from '@sorvik/core/conditions/registry';
import { renameMeasure } from '@sorvik/core/edit/rename-measure';
import { kindOf } from '@sorvik/core/levers/registry';
import { settledPosition } from '@sorvik/core/levers/settled-positions';
import { furtherMeasures } from '@sorvik/core/pipeline/chart-rules';
import { restingText } from '@sorvik/core/text/cue-sentence';
import { measureText } from '@sorvik/core/words/measure-text';
import { useAppStore } from '../../app/store';
import { useKnownFacts } from '../../levers/facts-context';
import { type Option, OptionList } from '../../ui/OptionList';
import { tell } from '../../ui/tell';
import { partOf, setWord } from './at-path';
import type { EditorProps } from './editor-kind';
import { MeasureList } from './MeasureList';

/** The cue a sentence speaks of. */
const cueOf = (chart: Chart, { sentence }: EditorProps): Cue => partOf<Cue>(chart, sentence);

export function EffectEditor(props: EditorProps) {
  const { chart, board, words, change } = props;
  const cue = cueOf(chart, props);
  const kind = conditionKinds.get(cue.condition.kind);
  const lookup = (id: string) => leverOf(board, id);
  const unfit = kind.unfit(cue.condition, chart, lookup, words);
  const keepsRows = kind.filters(cue.condition, lookup) !== null;
  const keeps: Option<Cue['effect']>[] = [
    ...(kind.keepsCategories
      ? [
          {
            value: 'keep' as const,
            text: tell('bench.cueEditors.keepsOnly'),
            note: tell('bench.cueEditors.theRestIsGoneOr'),
          },
        ]
      : []),
    ...(keepsRows
      ? [
          {
            value: 'filter' as const,
            text: tell('bench.cueEditors.filtersTo'),
            note: tell('bench.cueEditors.otherRowsAreNotCounted'),
          },
        ]
      : []),
  ];
  const cannotKeep = {
    value: 'filter' as const,
    text: tell('bench.cueEditors.filtersTo'),
    note: tell('bench.cueEditors.notPossibleItTestsCharted'),
    disabled: true,
  };
  return (
    <OptionList<Cue['effect']>
      label={tell('bench.cueEditors.whatItDoes')}
      options={[
        {
          value: 'light' as const,
          text: tell('bench.cueEditors.lights'),
          note: unfit
            ? tell('bench.cueEditors.notPossibleThisChartS')
            : tell('bench.cueEditors.theRestStaysInView'),
          disabled: unfit !== null,
        },
        ...(keeps.length ? keeps : [cannotKeep]),
      ]}
      chosen={cue.effect}
      onChoose={(effect) =>
        change((draft) => {
          const made = cueOf(draft, props);
          made.effect = effect;
          if (effect === 'keep') made.remainder ??= 'gone';
          else delete made.remainder;
        })
      }
    />
  );
}

const now = 'now';

/** What all marks are while the levers of a cue hold nothing; or what stands in for them: where they stand now. */
export function RestingEditor(props: EditorProps) {
  const { board, chart, words, change } = props;
  const store = useAppStore();
  const { facts } = useKnownFacts();
  const { resting, condition } = cueOf(chart, props);
  const held = conditionKinds
    .get(condition.kind)
    .levers(condition)
    .map((id) => leverOf(board, id))
    .find((lever) => lever !== undefined);
  const position = held && settledPosition(held, store.getState().positions.now, facts).position;
  const empty = !held || kindOf(held).isEmpty(position);
  const standIn: CueResting | undefined = held && { lever: held.id, position };
  const options = [
    ...cueRestings.map((value) => ({ value: value as string, text: restingText(value, words) })),
    ...(isStandIn(resting) ? [{ value: 'kept', text: restingText(resting, words) }] : []),
    {
      value: now,
      text: empty || !standIn ? tell('bench.cueEditors.asAtTheLeverS') : restingText(standIn, words),
      note: empty
        ? tell('bench.cueEditors.notPossibleTheLeverIs')
        : tell('bench.cueEditors.whereTheLeverIsNow'),
      disabled: empty,
    },
  ];
  return (
    <OptionList<string>
      label={tell('bench.cueEditors.atRest')}
      options={options.filter((option, i) => options.findIndex(({ text }) => text === option.text) === i)}
      chosen={isStandIn(resting) ? 'kept' : resting}
      onChoose={(chosen) =>
        change((draft) => {
          const next = chosen === now ? standIn : cueRestings.find((each) => each === chosen);
          if (next) cueOf(draft, props).resting = next;
        })
      }
    />
  );
}

/** The measure that dots stand along; none leaves them at the places of their categories. */
export function AgainstEditor({ board, dataset, words, word, change }: EditorProps) {
  return (
    <MeasureList
      label={tell('bench.cueEditors.measureOnTheOtherAxis')}
      board={board}
      dataset={dataset}
      words={words}
      value={word.value as Measure | undefined}
      none={tell('bench.cueEditors.atTheirPlaces')}
      onChoose={(measure) =>
        change((draft) => {
          if (measure) draft.against = measure;
          else delete draft.against;
        })
      }
    />
  );
}

/** A further measure of the chart. */
export function FurtherMeasureEditor({ board, dataset, words, sentence, word, change }: EditorProps) {
  const before = word.value as Measure;
  return (
    <MeasureList
      label={word.label ?? tell('bench.cueEditors.furtherMeasure')}
      board={board}
      dataset={dataset}
      words={words}
      value={before}
      onChoose={(measure) =>
        measure &&
        change((draft) => {
          setWord(draft, sentence, word, measure);
          // Sentences that go by it go on doing so.
          renameMeasure(draft, before, measure);
        })
      }
    />
  );
}

/** The measure that a condition compares by: the one the chart shows, or another. */
export function OtherMeasureEditor({ board, chart, dataset, words, sentence, word, change }: EditorProps) {
  return (
    <MeasureList
      label={tell('bench.cueEditors.comparedBy')}
      known={furtherMeasures(chart).map(({ measure }) => measure)}
      board={board}
      dataset={dataset}
      words={words}
      value={word.value as Measure | undefined}
      none={
        furtherMeasures(chart).length
          ? measureText(chart.measure, words)
          : tell('bench.cueEditors.whatIsShown')
      }
      onChoose={(measure) => change((draft) => setWord(draft, sentence, word, measure))}
    />
  );
}
