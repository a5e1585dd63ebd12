import { type Figure, isFormulaFigure, isLeverFigure, type ReadingFigure } from '@sorvik/core/board/figure';
import { figureProblem } from '@sorvik/core/conditions/figure-formula';
import { leverWith } from '@sorvik/core/edit/offers/lever-with';
import { leverCan } from '@sorvik/core/levers/abilities';
import { readingFigureText } from '@sorvik/core/levers/figure-word';
import { kindOf, type Lever } from '@sorvik/core/levers/registry';
import { english } from '@sorvik/core/messages/locale';
import { figureFrom } from '@sorvik/core/words/figure-from';
import { leverNameOf } from '@sorvik/formula/lever-names';
import { useMemo, useState } from 'react';
import { Form } from 'react-bootstrap';
import { useFormulaEngine } from '../../board/use-formulas';
import { FormulaField } from '../../ui/FormulaField';
import { OptionList } from '../../ui/OptionList';
import { tell } from '../../ui/tell';
import { setWord } from './at-path';
import type { EditorProps } from './editor-kind';

const made = '+';
const edge = 'edge';
const formula = 'formula';
const partTexts: Record<string, string> = {
  low: tell('bench.figureEditor.lowerLimit'),
  high: tell('bench.figureEditor.upperLimit'),
};

const keyOf = (figure: Figure) =>
  typeof figure === 'number'
    ? String(figure)
    : isLeverFigure(figure)
      ? `${figure.lever} ${figure.part ?? ''}`
      : isFormulaFigure(figure)
        ? formula
        : tell('bench.figureEditor.readingFigure', { of: figure.of, percent: figure.percent ?? '' });

/** Figures of the readings in view, where values are compared. */
const ofReadings: ReadingFigure[] = [
  { of: 'mean' },
  { of: 'median' },
  ...[10, 25, 75, 90].map((percent) => ({ of: 'percentile' as const, percent })),
];

/** A formula that says what a figure says. */
function asFormula(figure: Figure | undefined): string {
  if (typeof figure === 'number') return String(figure);
  if (isLeverFigure(figure)) return `:${leverNameOf(figure.lever)}${figure.part ? `.${figure.part}` : ''}`;
  if (figure === undefined || isFormulaFigure(figure)) return figure?.text ?? 'AVG(value)';
  if (figure.of === 'mean') return 'AVG(value)';
  const share = figure.of === 'median' ? 0.5 : (figure.percent ?? 50) / 100;
  return `PERCENTILE_CONT(${share}) WITHIN GROUP (ORDER BY value)`;
}

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
    typeof value === 'number' ? (share ? `${value * 100}%` : String(value)) : '',
  );
  const read = (typed: string) => {
    const { figure, percent } = figureFrom(typed, english);
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
        text: tell('bench.figureEditor.figureInView', { figure: readingFigureText(figure, english) }),
      })),
    );
  const choose = (chosen: string) =>
    change((draft, draftBoard) => {
      const known = options.find((option) => option.value === chosen);
      if (chosen === edge) return setWord(draft, sentence, word, undefined);
      if (chosen === formula) return setWord(draft, sentence, word, { text: asFormula(value) });
      if (known) return setWord(draft, sentence, word, known.figure);
      const lever = leverWith(ability, chart, dataset, draftBoard.levers);
      draftBoard.levers.push(lever);
      setWord(draft, sentence, word, figuresOf(lever).at(-1)!.figure);
    });
  return (
    <div className="sv-two">
      <Form.Group>
        <Form.Label className="sv-editor-head" htmlFor="figure-written">
          {tell('bench.figureEditor.fixedValue')}
        </Form.Label>
        <Form.Control
          id="figure-written"
          size="sm"
          inputMode="decimal"
          aria-label={tell('bench.figureEditor.figure')}
          placeholder={share ? '25%' : '1200'}
          value={text}
          isInvalid={!fits}
          onChange={(event) => {
            const next = event.target.value;
            setText(next);
            const figure = read(next);
            if (Number.isFinite(figure)) change((draft) => setWord(draft, sentence, word, figure));
          }}
        />
        {!fits && (
          <Form.Text className="text-danger">{tell('bench.figureEditor.enterANumberAsOr')}</Form.Text>
        )}
      </Form.Group>
      <div>
        <p className="sv-editor-head">{tell('bench.figureEditor.orFrom')}</p>
        <OptionList
          label={tell('bench.figureEditor.lever')}
          options={[
            ...(mayBeEdge ? [{ value: edge, text: tell('bench.figureEditor.theEdgeOfThePlot') }] : []),
            ...options,
            ...(share ? [] : [{ value: formula, text: tell('bench.figureEditor.aFormula') }]),
            { value: made, text: tell('bench.figureEditor.aNewLever') },
          ]}
          chosen={typeof value === 'number' ? undefined : value === undefined ? edge : keyOf(value)}
          onChoose={choose}
        />
      </div>
      {isFormulaFigure(value) && (
        <FigureFormula
          board={board}
          text={value.text}
          onChange={(next) => change((draft) => setWord(draft, sentence, word, { text: next }))}
        />
      )}
    </div>
  );
}

const starts = [
  'AVG(value) + 2 * STDDEV_SAMP(value)',
  'PERCENTILE_CONT(0.75) WITHIN GROUP (ORDER BY value)',
  'MAX(value) * 0.9',
];

/** A figure as a formula over the marks in view, which moves on the chart while it is typed. */
function FigureFormula({
  board: { levers },
  text: given,
  onChange,
}: Pick<EditorProps, 'board'> & { text: string; onChange(text: string): void }) {
  const [text, setText] = useState(given);
  const engine = useFormulaEngine(true);
  const problem = useMemo(
    () =>
      figureProblem(text, {
        engine,
        lever: (id) => levers.find((lever) => lever.id === id),
        levers,
        typeOf: () => 'text',
      }),
    [engine, text, levers],
  );
  return (
    <FormulaField
      label={tell('bench.figureEditor.formula')}
      value={text}
      names={[
        { name: 'value', note: tell('bench.figureEditor.whatTheMarksShow'), put: 'AVG(value)' },
        ...levers.map(({ id, name }) => ({
          name: `:${leverNameOf(id)}`,
          note: tell('bench.figureEditor.leverName', { name }),
        })),
      ]}
      problem={problem}
      note={tell('bench.figureEditor.sqlForOneValueOf')}
      starts={starts}
      onChange={(next) => {
        setText(next);
        if (next.trim()) onChange(next);
      }}
    />
  );
}
