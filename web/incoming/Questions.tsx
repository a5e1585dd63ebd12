import type { ImportQuestion, ImportView } from '@sorvik/core/board/api-types';
import { type FormEvent, useState } from 'react';
import { Button, Form } from 'react-bootstrap';
import { problemText } from '../app/api';
import { useAnswerImportMutation } from '../app/editing-api';
import { Problem } from '../ui/Problem';
import { tell } from '../ui/tell';

type Option = ImportQuestion['options'][number];

/** How a question is put, and how what can be answered is told. */
interface Asked {
  legend(question: ImportQuestion): string;
  option(option: Option): string;
  /** The first answer is most likely right: it is chosen until somebody says otherwise. */
  likely: boolean;
}

const joined = (texts: readonly string[]) => texts.join(' · ');

const cellsOf = (asked: string): Asked['legend'] =>
  function legend({ column, examples }) {
    return tell('incoming.file.inColumnAskedTheFile', { column, asked, examples: joined(examples) });
  };

/** Figures and, where only a comma tells, words. */
const numbersText = ({ reads }: Option): string =>
  `${joined(reads)} (${reads.some((read) => read.includes('.')) ? tell('incoming.file.withDecimals') : tell('incoming.file.wholeNumbers')})`;

const kinds: Record<ImportQuestion['asks'], Asked> = {
  dates: {
    legend: cellsOf(tell('incoming.file.whichDatesAreThese')),
    option: ({ reads }) => joined(reads),
    likely: false,
  },
  numbers: {
    legend: cellsOf(tell('incoming.file.whichNumbersAreThese')),
    option: numbersText,
    likely: false,
  },
  sheet: {
    legend: () => tell('incoming.questions.whichSheet'),
    option: ({ answer, reads }) => tell('incoming.questions.sheet', { sheet: answer, cells: joined(reads) }),
    likely: true,
  },
  heading: {
    legend: () => tell('incoming.questions.whichRowNames'),
    option: ({ answer, reads }) => tell('incoming.questions.row', { row: answer, cells: joined(reads) }),
    likely: true,
  },
  totals: {
    legend: ({ examples }) => tell('incoming.questions.totals', { examples: examples.join('; ') }),
    option: ({ answer }) => tell('incoming.questions.totalsAnswer', { answer }),
    likely: true,
  },
  list: {
    legend: ({ column, examples }) =>
      tell('incoming.questions.list', { column, examples: examples.join('; ') }),
    option: ({ answer }) => tell('incoming.questions.listAnswer', { answer }),
    likely: true,
  },
  wide: {
    legend: ({ examples }) => tell('incoming.questions.wide', { examples: examples.join(', ') }),
    option: ({ answer, reads }) => tell('incoming.questions.wideAnswer', { answer, rows: reads.join('\n') }),
    likely: true,
  },
  files: {
    legend: ({ examples }) => tell('incoming.questions.files', { examples: examples.join(', ') }),
    option: ({ answer }) => tell('incoming.questions.filesAnswer', { answer }),
    likely: true,
  },
};

const likelyAnswers = (questions: readonly ImportQuestion[]): Record<string, string> =>
  Object.fromEntries(
    questions.flatMap(({ asks, column, options }) =>
      kinds[asks].likely && options[0] ? [[column, options[0].answer]] : [],
    ),
  );

/** Asks what has to be known before a file can be read, with what each answer makes of it. */
export function Questions({ view, onAnswered }: { view: ImportView; onAnswered(): void }) {
  const [answer, { error, isLoading }] = useAnswerImportMutation();
  const [answers, setAnswers] = useState(() => likelyAnswers(view.questions));
  const asked = view.questions.filter(({ within }) => !within || answers[within.column] === within.answer);
  const submit = async (event: FormEvent) => {
    event.preventDefault();
    const given = Object.fromEntries(asked.map(({ column }) => [column, answers[column] ?? '']));
    const result = await answer({ id: view.id, answers: given });
    if ('data' in result) onAnswered();
  };
  return (
    <Form onSubmit={submit}>
      {asked.map((question) => {
        const { column, asks, options } = question;
        const kind = kinds[asks];
        return (
          <fieldset key={column}>
            <legend>{kind.legend(question)}</legend>
            {options.map((option) => (
              <Form.Check
                key={option.answer}
                required
                type="radio"
                id={`${column}-${option.answer}`}
                name={column}
                label={kind.option(option)}
                checked={answers[column] === option.answer}
                onChange={() => setAnswers({ ...answers, [column]: option.answer })}
              />
            ))}
          </fieldset>
        );
      })}
      {error && <Problem>{problemText(error)}</Problem>}
      <Button size="sm" type="submit" disabled={isLoading}>
        {tell('incoming.file.import')}
      </Button>
    </Form>
  );
}
