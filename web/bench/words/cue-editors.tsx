import { leverOf } from '@sorvik/core/board/board';
import type { Chart } from '@sorvik/core/board/chart';
import { type Cue, cueRestings } from '@sorvik/core/board/cue';
import { isNamedColour, lookColours, ownColour } from '@sorvik/core/board/look';
import { conditionKinds } from '@sorvik/core/conditions/registry';
import { nearestStrong, weakSpots } from '@sorvik/core/looks/colour-check';
import { restingText } from '@sorvik/core/words/chart-sentences';
import { useState } from 'react';
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

/** A colour of the author's own; one that hardly stands off what is muted is said, with the nearest that does. */
function OwnColour({ colour, onTake }: { colour: string | undefined; onTake(colour: string): void }) {
  const own = colour !== undefined && !isNamedColour(colour) ? colour : '';
  const [text, setText] = useState(own);
  const fits = text === '' || ownColour.test(text.trim());
  const better = own && weakSpots(own).length ? nearestStrong(own) : undefined;
  return (
    <div className="sv-own-colour">
      <Form.Control
        size="sm"
        aria-label="A colour of your own"
        placeholder="#b8441c or rgb(184, 68, 28)"
        value={text}
        isInvalid={!fits}
        onChange={(event) => {
          const next = event.target.value;
          setText(next);
          if (ownColour.test(next.trim())) onTake(next.trim());
        }}
      />
      {!fits && <Form.Text className="text-danger">A colour, as #b8441c or rgb(184, 68, 28).</Form.Text>}
      {better && (
        <p className="sv-notice">
          It hardly stands off what is muted.{' '}
          <button
            type="button"
            className="btn btn-link btn-sm"
            onClick={() => {
              setText(better);
              onTake(better);
            }}
          >
            Take {better}
          </button>
        </p>
      )}
    </div>
  );
}

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
      <OwnColour colour={look.colour} onTake={(colour) => set({ colour })} />
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
