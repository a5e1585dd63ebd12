import { leverOf } from '@sorvik/core/board/board';
import type { Chart } from '@sorvik/core/board/chart';
import { type Cue, cueRestings } from '@sorvik/core/board/cue';
import { lookColours } from '@sorvik/core/board/look';
import { conditionKinds } from '@sorvik/core/conditions/registry';
import { restingText } from '@sorvik/core/words/chart-sentences';
import { Form } from 'react-bootstrap';
import { OptionList } from '../../ui/OptionList';
import { partOf } from './at-path';
import type { EditorProps } from './editor-kind';

/** The cue a sentence speaks of. */
const cueOf = (chart: Chart, { sentence }: EditorProps): Cue => partOf<Cue>(chart, sentence);

export function EffectEditor(props: EditorProps) {
  const { chart, board, words, change } = props;
  const cue = cueOf(chart, props);
  const kind = conditionKinds.get(cue.condition.kind);
  const lookup = (id: string) => leverOf(board, id);
  const unfit = kind.unfit(cue.condition, chart.by, lookup, words);
  const cuts = kind.filters(cue.condition, lookup);
  return (
    <OptionList
      label="What it does"
      options={[
        {
          value: 'light' as const,
          text: 'Lights',
          note: unfit ? 'cannot: the marks stand for something else' : 'the rest stays in view, muted',
          disabled: unfit !== null,
        },
        {
          value: 'filter' as const,
          text: 'Keeps only',
          note: cuts ? 'the rest is left out' : 'cannot: it is about readings, not rows',
          disabled: cuts === null,
        },
      ]}
      chosen={cue.effect}
      onChoose={(effect) =>
        change((draft) => {
          cueOf(draft, props).effect = effect;
        })
      }
    />
  );
}

export function RestingEditor(props: EditorProps) {
  return (
    <OptionList
      label="At rest"
      options={cueRestings.map((value) => ({ value, text: restingText(value) }))}
      chosen={cueOf(props.chart, props).resting}
      onChoose={(resting) =>
        props.change((draft) => {
          cueOf(draft, props).resting = resting;
        })
      }
    />
  );
}

/** What tells a lit mark besides its colour. */
const signs = [
  { name: 'outline', label: 'outlined' },
  { name: 'hatch', label: 'hatched' },
] as const;

export function LookEditor(props: EditorProps) {
  const { look } = cueOf(props.chart, props);
  const set = (part: Partial<Cue['look']>) =>
    props.change((draft) => {
      Object.assign(cueOf(draft, props).look, part);
    });
  return (
    <div className="sv-look">
      <div role="radiogroup" aria-label="Colour" className="sv-swatches">
        {lookColours.map((colour) => (
          <button
            key={colour}
            type="button"
            role="radio"
            aria-checked={look.colour === colour}
            aria-label={colour}
            title={colour}
            className="sv-swatch"
            data-look={colour}
            onClick={() => set({ colour })}
          >
            <span aria-hidden="true" />
            {colour}
          </button>
        ))}
      </div>
      {signs.map(({ name, label }) => (
        <Form.Check
          key={name}
          type="checkbox"
          id={`look-${name}`}
          label={label}
          checked={look[name] ?? false}
          onChange={(event) => set({ [name]: event.target.checked })}
        />
      ))}
    </div>
  );
}
