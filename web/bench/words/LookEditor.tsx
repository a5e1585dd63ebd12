import { toneOf } from '@sorvik/core/board/board';
import {
  type Colour,
  isNamedColour,
  isValueColour,
  type Look,
  lookColours,
  lookWeights,
  markerShapes,
  ownColour,
  seriesColour,
  type ValueColour,
} from '@sorvik/core/board/look';
import { measureKey } from '@sorvik/core/board/measure';
import type { MutedTone } from '@sorvik/core/board/otherwise';
import { formKinds } from '@sorvik/core/forms/registry';
import { english } from '@sorvik/core/messages/locale';
import { colouredBy } from '@sorvik/core/pipeline/chart-rules';
import { nearestStrong, weakSpots } from '@sorvik/core/pipeline/colour-check';
import { colourName } from '@sorvik/core/words/colour-name';
import { useState } from 'react';
import { Form } from 'react-bootstrap';
import { tell } from '../../ui/tell';
import { partOf } from './at-path';
import type { EditorProps } from './editor-kind';
import { measureOptions } from './measure-options';

/** A colour of the author's own; one that hardly stands off what is muted is said, with the nearest that does. */
function OwnColour({
  colour,
  tone,
  onTake,
}: {
  colour: Colour | undefined;
  tone: MutedTone;
  onTake(colour: string): void;
}) {
  const own = typeof colour === 'string' && colour !== seriesColour && !isNamedColour(colour) ? colour : '';
  const [text, setText] = useState(own);
  const fits = text === '' || ownColour.test(text.trim());
  const better = own && weakSpots(own, tone).length ? nearestStrong(own, tone) : undefined;
  return (
    <div className="sv-own-colour">
      <Form.Control
        size="sm"
        aria-label={tell('bench.lookEditor.aColourOfYourOwn')}
        placeholder={tell('bench.lookEditor.bCOrRgb')}
        value={text}
        isInvalid={!fits}
        onChange={(event) => {
          const next = event.target.value;
          setText(next);
          if (ownColour.test(next.trim())) onTake(next.trim());
        }}
      />
      {!fits && <Form.Text className="text-danger">{tell('bench.lookEditor.aColourAsBC')}</Form.Text>}
      {better && (
        <p className="sv-notice">
          {tell('bench.lookEditor.tooCloseToTheMuted')}{' '}
          <button
            type="button"
            className="btn btn-link btn-sm"
            onClick={() => {
              setText(better);
              onTake(better);
            }}
          >
            {tell('bench.lookEditor.takeBetter', { better })}
          </button>
        </p>
      )}
    </div>
  );
}

interface PickProps<T extends string> {
  label: string;
  value: T | undefined;
  values: readonly T[];
  nothing?: string;
  text?(value: T): string;
  onPick(value: T | undefined): void;
}

function LookPick<T extends string>({ label, value, values, nothing, text, onPick }: PickProps<T>) {
  return (
    <div className="sv-look-row">
      <span>{label}</span>
      <Form.Select
        size="sm"
        aria-label={label}
        value={value ?? ''}
        onChange={({ target }) => onPick((target.value || undefined) as T | undefined)}
      >
        {nothing !== undefined && <option value="">{nothing}</option>}
        {values.map((each) => (
          <option key={each} value={each}>
            {text?.(each) ?? each}
          </option>
        ))}
      </Form.Select>
    </div>
  );
}

const followings = ['one', 'series', 'sign', 'gradient'] as const;
type Following = (typeof followings)[number];
const followingTexts: Record<Following, string> = {
  one: tell('bench.lookEditor.oneColour'),
  series: tell('bench.lookEditor.oneColourPerSeries'),
  sign: tell('bench.lookEditor.twoColoursAroundACentre'),
  gradient: 'gradient',
};
const followingOf = (colour: Colour | undefined): Following =>
  isValueColour(colour) ? colour.by : colour === seriesColour ? 'series' : 'one';

/** A colour that follows a measure: the two sides of a centre. */
function ValueColourFields({
  colour,
  dataset,
  words,
  onTake,
}: {
  colour: ValueColour;
  onTake(colour: ValueColour): void;
  dataset: EditorProps['dataset'];
  words: EditorProps['words'];
}) {
  const measures = measureOptions(dataset, words);
  return (
    <>
      <LookPick
        label={tell('bench.lookEditor.fromTheCentreOn')}
        value={colour.above}
        values={lookColours}
        onPick={(above) => above && onTake({ ...colour, above })}
      />
      <LookPick
        label={tell('bench.lookEditor.belowIt')}
        value={colour.below}
        values={lookColours}
        onPick={(below) => below && onTake({ ...colour, below })}
      />
      <div className="sv-look-row">
        <span>{tell('bench.lookEditor.centre')}</span>
        <Form.Control
          size="sm"
          type="number"
          step="any"
          aria-label={tell('bench.lookEditor.centre')}
          defaultValue={colour.centre ?? 0}
          onChange={({ target }) =>
            target.value !== '' &&
            Number.isFinite(Number(target.value)) &&
            onTake({ ...colour, centre: Number(target.value) })
          }
        />
      </div>
      <LookPick
        label={tell('bench.lookEditor.of')}
        value={colour.measure && measureKey(colour.measure)}
        values={measures.map(({ value }) => value)}
        text={(value) => measures.find((each) => each.value === value)!.text}
        nothing={tell('bench.lookEditor.whatIsShown')}
        onPick={(key) => {
          const { measure: _before, ...rest } = colour;
          const measure = measures.find(({ value }) => value === key)?.measure;
          onTake(measure ? { ...rest, measure } : rest);
        }}
      />
    </>
  );
}

/** What tells a lit mark besides its colour. */
const signs = [
  { name: 'outline', label: tell('bench.lookEditor.outlined') },
  { name: 'hatch', label: tell('bench.lookEditor.hatched') },
  { name: 'onTop', label: tell('bench.lookEditor.onTop') },
] as const;
const figureWords = ['with', 'without'] as const;

/** How marks look that a cue lights, or those on one of its sides. */
export function LookEditor(props: EditorProps) {
  const { chart, word, sentence, dataset, words } = props;
  const look = word.value as Look;
  const [slot = 'look', side = 0] = word.path ?? [];
  const set = (part: Partial<Look>) =>
    props.change((draft) => {
      const holder = partOf<Record<string | number, unknown>>(draft, sentence);
      let target: Look;
      if (slot === 'looks') {
        holder.looks ??= [];
        const sides = holder.looks as Look[];
        while (sides.length <= Number(side)) sides.push({});
        target = sides[Number(side)]!;
      } else {
        // What has not been said yet begins as what is shown.
        holder[slot] ??= { ...look };
        target = holder[slot] as Look;
      }
      Object.assign(target, part);
      for (const [name, value] of Object.entries(part))
        if (value === undefined) delete target[name as keyof Look];
    });
  const following = followingOf(look.colour);
  const follow = (next: Following) => {
    if (next === 'one') set({ colour: lookColours[0] });
    else if (next === 'series') set({ colour: seriesColour });
    else set({ colour: { by: next, above: 'kelp', below: 'ember' } });
  };
  const lines = formKinds.get(chart.form).lineStates === true;
  return (
    <div className="sv-look">
      <div>
        <LookPick
          label={tell('bench.lookEditor.colour')}
          value={following}
          values={followings.filter((each) => each !== 'series' || colouredBy(chart))}
          text={(value) => followingTexts[value]}
          onPick={(next) => next && follow(next)}
        />
        {following === 'one' && (
          <>
            <div role="radiogroup" aria-label={tell('bench.lookEditor.colour')} className="sv-swatches">
              {lookColours.map((colour) => (
                <button
                  key={colour}
                  type="button"
                  role="radio"
                  aria-checked={look.colour === colour}
                  aria-label={colourName(colour, english)}
                  title={colourName(colour, english)}
                  className="sv-swatch"
                  data-look={colour}
                  onClick={() => set({ colour })}
                >
                  <span aria-hidden="true" />
                  {colourName(colour, english)}
                </button>
              ))}
            </div>
            <OwnColour
              tone={toneOf(chart, props.board)}
              colour={look.colour}
              onTake={(colour) => set({ colour })}
            />
          </>
        )}
        {isValueColour(look.colour) && (
          <ValueColourFields
            {...{ dataset, words }}
            colour={look.colour}
            onTake={(colour) => set({ colour })}
          />
        )}
      </div>
      <div>
        <LookPick
          label={tell('bench.lookEditor.weight')}
          value={look.weight}
          values={lookWeights}
          nothing="usual"
          onPick={(weight) => set({ weight } as Partial<Look>)}
        />
        {lines && (
          <>
            <LookPick
              label={tell('bench.lookEditor.marker')}
              value={look.marker}
              values={markerShapes}
              nothing="automatic"
              onPick={(marker) => set({ marker } as Partial<Look>)}
            />
            <div className="sv-look-row">
              <span>{tell('bench.lookEditor.markerSize')}</span>
              <Form.Control
                size="sm"
                type="number"
                min={4}
                max={24}
                aria-label={tell('bench.lookEditor.markerSize')}
                placeholder="9"
                defaultValue={look.markerSize ?? ''}
                onChange={({ target }) => {
                  const size = Number(target.value);
                  if (target.value === '') set({ markerSize: undefined } as never);
                  else if (size >= 4 && size <= 24) set({ markerSize: size });
                }}
              />
            </div>
          </>
        )}
        <LookPick
          label={tell('bench.lookEditor.valueLabel')}
          value={look.label === undefined ? undefined : look.label ? 'with' : 'without'}
          values={figureWords}
          nothing={tell('bench.lookEditor.asTheChartHasIt')}
          onPick={(next) => set({ label: next && next === 'with' } as Partial<Look>)}
        />
        {signs
          .filter(({ name }) => lines || name !== 'onTop')
          .map(({ name, label }) => (
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
    </div>
  );
}
