import { mutedTones, usualTone } from '@sorvik/core/board/otherwise';
import type { Split } from '@sorvik/core/board/split';
import { wholesOf } from '@sorvik/core/board/whole';
import { fieldOf } from '@sorvik/core/data/dataset';
import { type Grain, grains } from '@sorvik/core/data/dimension';
import { isTemporal } from '@sorvik/core/data/values';
import { categoryOf } from '@sorvik/core/edit/defaults';
import { mostSeries } from '@sorvik/core/edit/offers/series';
import { mostOwnColours } from '@sorvik/core/pipeline/series-looks';
import { toneText } from '@sorvik/core/text/rest-sentences';
import { wholeText } from '@sorvik/core/text/whole-sentence';
import { OptionList } from '../../ui/OptionList';
import { tell } from '../../ui/tell';
import type { EditorProps } from './editor-kind';

const none = '';

/** What parts a chart into series, if anything. */
export function SplitEditor({ chart, dataset, change }: EditorProps) {
  const { split } = chart;
  const field = split && fieldOf(dataset, split.field);
  const set = (next: Split | undefined) =>
    change((draft) => {
      if (next) draft.split = next;
      else delete draft.split;
    });
  const choose = (key: string) => {
    if (key === none) return set(undefined);
    const chosen = fieldOf(dataset, key)!;
    const few = (chosen.profile?.distinct ?? 0) <= mostOwnColours;
    set({ ...categoryOf(chosen), colours: few ? 'own' : 'one' });
  };
  return (
    <div className="sv-two">
      <OptionList
        label={tell('bench.seriesEditors.series')}
        options={[
          { value: none, text: tell('bench.seriesEditors.noSeries') },
          ...dataset.fields
            .filter((each) => each.key !== chart.by.field || isTemporal(each.type))
            .map((each) => {
              const distinct = each.profile?.distinct ?? 0;
              const many = !isTemporal(each.type) && distinct > mostSeries;
              return {
                value: each.key,
                text: each.name,
                note: tell('bench.seriesEditors.values', { n: distinct, many: many ? 'yes' : 'no' }),
                disabled: many,
              };
            }),
        ]}
        chosen={split?.field ?? none}
        onChoose={choose}
      />
      {split && field && isTemporal(field.type) && (
        <OptionList<Grain>
          label={tell('bench.seriesEditors.groupDatesBy')}
          options={grains.map((value) => ({ value, text: value }))}
          chosen={split.grain}
          onChoose={(grain) => set({ ...split, grain })}
        />
      )}
    </div>
  );
}

/** What marks are that nothing lights. */
export function OtherwiseEditor({ chart, change }: EditorProps) {
  return (
    <OptionList
      label={tell('bench.seriesEditors.unlitMarks')}
      options={[
        {
          value: 'muted' as const,
          text: tell('bench.seriesEditors.muted'),
          note: tell('bench.seriesEditors.stillDrawnInAQuiet'),
        },
        {
          value: 'gone' as const,
          text: tell('bench.seriesEditors.notDrawn'),
          note: tell('bench.seriesEditors.theAxisDoesNotChange'),
        },
      ]}
      chosen={chart.otherwise?.marks ?? 'muted'}
      onChoose={(marks) =>
        change((draft) => {
          draft.otherwise = { ...draft.otherwise, marks };
        })
      }
    />
  );
}

/** How pale muted marks are: here, and on the whole board. */
export function ToneEditor({ board, chart, change }: EditorProps) {
  const ofBoard = board.muted ?? usualTone;
  const tones = mutedTones.map((value) => ({ value, text: toneText(value) }));
  return (
    <div className="sv-two">
      <div>
        <p className="sv-editor-head">{tell('bench.seriesEditors.onThisChart')}</p>
        <OptionList<string>
          label={tell('bench.seriesEditors.toneOnThisChart')}
          options={[
            { value: none, text: tell('bench.seriesEditors.asOnTheBoard'), note: toneText(ofBoard) },
            ...tones,
          ]}
          chosen={chart.otherwise?.tone ?? none}
          onChoose={(chosen) =>
            change((draft) => {
              const tone = mutedTones.find((each) => each === chosen);
              draft.otherwise = { marks: draft.otherwise?.marks ?? 'muted', ...(tone ? { tone } : {}) };
            })
          }
        />
      </div>
      <div>
        <p className="sv-editor-head">{tell('bench.seriesEditors.onTheBoard')}</p>
        <OptionList
          label={tell('bench.seriesEditors.toneOnTheBoard')}
          options={tones}
          chosen={ofBoard}
          onChoose={(tone) =>
            change((_chart, draft) => {
              draft.muted = tone;
            })
          }
        />
      </div>
    </div>
  );
}

/** What bars are filled up to. */
export function WholeEditor({ chart, change }: EditorProps) {
  return (
    <OptionList
      label={tell('bench.seriesEditors.whole')}
      options={wholesOf.map((value) => ({ value, text: wholeText(value) }))}
      chosen={chart.whole?.of}
      onChoose={(of) =>
        change((draft) => {
          const { figure = 0, measure = { ...draft.measure } } = draft.whole ?? {};
          draft.whole =
            of === 'figure'
              ? { of, figure }
              : of === 'measure'
                ? { of, measure, over: 'everything' }
                : { of };
        })
      }
    />
  );
}
