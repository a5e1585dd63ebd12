import { type Figure, isLeverFigure, type ReadingFigure } from '@sorvik/core/board/figure';
import { leverCan } from '@sorvik/core/levers/abilities';
import { kindOf, type Lever } from '@sorvik/core/levers/registry';
import { leverWith } from '@sorvik/core/offers/lever-with';
import { figureFrom } from '@sorvik/core/words/figure-from';
import { readingFigureText } from '@sorvik/core/words/figure-word';
import { useState } from 'react';
import { Form } from 'react-bootstrap';
import { OptionList } from '../../ui/OptionList';
import { setWord } from './at-path';
import type { EditorProps } from './editor-kind';

const made = '+';
const edge = 'edge';
const partTexts: Record<string, string> = { low: 'lower limit', high: 'upper limit' };

const keyOf = (figure: Figure) =>
  typeof figure === 'number'
    ? String(figure)
    : isLeverFigure(figure)
      ? `${figure.lever} ${figure.part ?? ''}`
      : `of ${figure.of} ${figure.percent ?? ''}`;

/** Figures of the readings in view, where values are compared. */
const ofReadings: ReadingFigure[] = [
  { of: 'mean' },
  { of: 'median' },
  ...[10, 25, 75, 90].map((percent) => ({ of: 'percentile' as const, percent })),
];

/** The figures that levers hold, each with a name. */
const figuresOf = (lever: Lever): { figure: Figure; text: string }[] => {
  const { parts } = kindOf(lever).figures!;
  if (parts.length === 1) return [{ figure: { lever: lever.id }, text: lever.name }];
  return parts.map((part) => ({
    figure: { lever: lever.id, part },
    text: `${lever.name}, ${partTexts[part] ?? part}`,
  }));
};

/** A figure: written here, or taken from a lever. */
export function FigureEditor(props: EditorProps) {
  return <FigureFields {...props} />;
}

/** An end of a band: a figure, or the edge of the plot. */
export function BandEndEditor(props: EditorProps) {
  return <FigureFields {...props} mayBeEdge />;
}

function FigureFields({
  board,
  chart,
  dataset,
  sentence,
  word,
  change,
  mayBeEdge = false,
}: EditorProps & { mayBeEdge?: boolean }) {
  const ability = word.ability ?? 'figure';
  const share = ability === 'share';
  const value = word.value as Figure | undefined;
  const [text, setText] = useState(
    typeof value === 'number' ? (share ? `${value * 100} %` : String(value)) : '',
  );
  const read = (typed: string) => {
    const { figure, percent } = figureFrom(typed);
    return share && (percent || Math.abs(figure) > 1) ? figure / 100 : figure;
  };
  const fits = text === '' || Number.isFinite(read(text));
  const options = board.levers
    .filter((lever) => leverCan(lever, ability))
    .flatMap(figuresOf)
    .map(({ figure, text: name }) => ({ value: keyOf(figure), figure, text: name }));
  if (!share && word.label !== 'Count')
    options.push(
      ...ofReadings.map((figure) => ({
        value: keyOf(figure),
        figure,
        text: `${readingFigureText(figure)} in view`,
      })),
    );
  const choose = (chosen: string) =>
    change((draft, draftBoard) => {
      const known = options.find((option) => option.value === chosen);
      if (chosen === edge) return setWord(draft, sentence, word, undefined);
      if (known) return setWord(draft, sentence, word, known.figure);
      const lever = leverWith(ability, chart, dataset, draftBoard.levers);
      draftBoard.levers.push(lever);
      setWord(draft, sentence, word, figuresOf(lever).at(-1)!.figure);
    });
  return (
    <div className="sv-two">
      <Form.Group>
        <Form.Label className="sv-editor-head" htmlFor="figure-written">
          Written
        </Form.Label>
        <Form.Control
          id="figure-written"
          size="sm"
          inputMode="decimal"
          aria-label="Figure"
          placeholder={share ? '25 %' : '1200'}
          value={text}
          isInvalid={!fits}
          onChange={(event) => {
            const next = event.target.value;
            setText(next);
            const figure = read(next);
            if (Number.isFinite(figure)) change((draft) => setWord(draft, sentence, word, figure));
          }}
        />
        {!fits && <Form.Text className="text-danger">A number, as 1200 or 0.8.</Form.Text>}
      </Form.Group>
      <div>
        <p className="sv-editor-head">Or taken from</p>
        <OptionList
          label="Lever"
          options={[
            ...(mayBeEdge ? [{ value: edge, text: 'the edge of the plot' }] : []),
            ...options,
            { value: made, text: 'a new lever' },
          ]}
          chosen={typeof value === 'number' ? undefined : value === undefined ? edge : keyOf(value)}
          onChoose={choose}
        />
      </div>
    </div>
  );
}
