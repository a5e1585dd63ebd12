import type { DatasetView } from '@sorvik/core/board/api-types';
import { readRowRule, ruleNames } from '@sorvik/core/data/row-rule';
import { english } from '@sorvik/core/messages/locale';
import { keyText } from '@sorvik/core/words/key-text';
import { useMemo, useState } from 'react';
import { Button, Form } from 'react-bootstrap';
import { problemText } from '../app/api';
import {
  useMeQuery,
  usePeopleQuery,
  useRuleQuery,
  useSetRuleMutation,
  useTriedRuleQuery,
} from '../app/people-api';
import { useFormulaEngine } from '../board/use-formulas';
import { FormulaField } from '../ui/FormulaField';
import { Problem } from '../ui/Problem';
import { tell } from '../ui/tell';

const shown = 5;

/** What a person sees by a rule. */
function Tried({ dataset, person, rule }: { dataset: DatasetView; person: string; rule: string }) {
  const { data: people = [] } = usePeopleQuery();
  const { data: tried, error } = useTriedRuleQuery(
    { id: dataset.id, person, ...(rule ? { rule } : {}) },
    { refetchOnMountOrArgChange: true },
  );
  const name = people.find(({ id }) => id === person)?.name ?? '';
  if (error) return <Problem>{problemText(error)}</Problem>;
  if (!tried) return <p className="sv-loading">{tell('home.home.loading')}</p>;
  return (
    <div className="sv-trial" role="status">
      <p>
        {tell('dataset.rule.sees', {
          name,
          rows: tried.rows,
          of: tried.of,
          owns: tried.owns ? 'yes' : 'no',
        })}
      </p>
      {tried.sample.length > 0 && (
        <table aria-label={tell('dataset.rule.rowsOf', { name })}>
          <thead>
            <tr>
              {tried.fields.map((field) => (
                <th key={field}>{field}</th>
              ))}
            </tr>
          </thead>
          <tbody>
            {tried.sample.slice(0, shown).map((row, r) => (
              // biome-ignore lint/suspicious/noArrayIndexKey: rows have no name but their place
              <tr key={r}>
                {row.map((value, i) => (
                  <td key={tried.fields[i]}>
                    {value === null ? '–' : keyText(value, english, dataset.fields[i]?.type)}
                  </td>
                ))}
              </tr>
            ))}
          </tbody>
        </table>
      )}
    </div>
  );
}

function Editor({ dataset, kept }: { dataset: DatasetView; kept: string | null }) {
  const [text, setText] = useState(kept ?? '');
  const [person, setPerson] = useState('');
  const { data: people = [] } = usePeopleQuery();
  const [set, setting] = useSetRuleMutation();
  const engine = useFormulaEngine(true);
  const rule = text.trim();
  const read = useMemo(
    () => (engine && rule ? readRowRule(rule, dataset.fields, engine) : null),
    [engine, rule, dataset.fields],
  );
  const names = useMemo(
    () => [
      ...dataset.fields.map(({ key, name }) => ({ name: key, note: name })),
      ...(Object.keys(ruleNames) as (keyof typeof ruleNames)[]).map((name) => ({
        name: `:${name}`,
        note: tell('dataset.rule.whoAsks', { name }),
      })),
    ],
    [dataset.fields],
  );
  const [field] = dataset.fields.filter(({ type }) => type === 'text');
  const starts =
    field && !rule ? [`${field.key} = ANY (:person_groups)`, `${field.key} = :person_email`] : [];
  const same = rule === (kept ?? '');
  const readable = !rule || read?.ok === true;
  return (
    <>
      <FormulaField
        label={tell('dataset.rule.title')}
        value={text}
        names={names}
        problem={read && !read.ok ? read.problem : null}
        note={tell('dataset.rule.note')}
        starts={starts}
        onChange={setText}
      />
      <div className="sv-row">
        <Button
          size="sm"
          disabled={same || !readable || setting.isLoading}
          onClick={() => set({ id: dataset.id, rule: rule || null })}
        >
          {rule ? tell('dataset.rule.keep') : tell('dataset.rule.takeAway')}
        </Button>
        <Form.Select
          size="sm"
          className="sv-member-choice"
          aria-label={tell('dataset.rule.tryAs')}
          value={person}
          onChange={(event) => setPerson(event.target.value)}
        >
          <option value="">{tell('dataset.rule.tryAs')}</option>
          {people.map(({ id, name, email }) => (
            <option key={id} value={id}>
              {tell('people.share.person', { name, email })}
            </option>
          ))}
        </Form.Select>
      </div>
      {setting.error && <Problem role="alert">{problemText(setting.error)}</Problem>}
      {person && readable && <Tried dataset={dataset} person={person} rule={rule} />}
    </>
  );
}

/** Which rows those see who do not own a dataset: for its owners, where people sign in. */
export function RowRule({ dataset }: { dataset: DatasetView }) {
  const { data: me } = useMeQuery();
  const { data, error } = useRuleQuery(dataset.id, { skip: !me?.person, refetchOnMountOrArgChange: true });
  // Whoever does not own it is not told.
  if (!data || error) return null;
  return (
    <section aria-labelledby="row-rule">
      <h2 id="row-rule">{tell('dataset.rule.title')}</h2>
      <p className="sv-hint">{tell('dataset.rule.hint', { has: data.rule === null ? 'no' : 'yes' })}</p>
      <Editor key={data.rule ?? ''} dataset={dataset} kept={data.rule} />
    </section>
  );
}
