import type { DatasetView } from '@sorvik/core/board/api-types';
import { cameWithRows } from '@sorvik/core/data/dataset';
import { type ReadRow, readRow } from '@sorvik/core/data/row-formula';
import { isNumeric, isTemporal, type KeyValue } from '@sorvik/core/data/values';
import { english } from '@sorvik/core/messages/locale';
import { keyText } from '@sorvik/core/words/key-text';
import type { Value } from '@sorvik/formula/expression';
import { type KeyboardEvent, useMemo, useState } from 'react';
import { Button, Form } from 'react-bootstrap';
import { problemText } from '../app/api';
import { useAddFieldMutation, useChangeFieldMutation, useRowsQuery } from '../app/editing-api';
import { useFormulaEngine } from '../board/use-formulas';
import { FormulaField } from '../ui/FormulaField';
import { Problem } from '../ui/Problem';
import { tell } from '../ui/tell';
import { firstRows } from './RowsTable';

type Field = DatasetView['fields'][number];
type Read = Extract<ReadRow, { ok: true }>;

const shown = 5;

/** What the formula makes of the first rows, computed here while it is typed. */
function Trial({ dataset, read }: { dataset: DatasetView; read: Read }) {
  const { data } = useRowsQuery({ id: dataset.id, offset: 0, limit: firstRows, version: dataset.version });
  const rows = data?.rows ?? [];
  const figures = useMemo(() => {
    const place = new Map(dataset.fields.map(({ key }, i) => [key, i]));
    const at = read.held.run({
      length: rows.length,
      column: (ref) => (i) => rows[i]![place.get(ref)!] as Value,
      lever: () => null,
      today: '',
    });
    return rows.map((_, i) => at(i) as KeyValue);
  }, [dataset, rows, read]);
  const used = dataset.fields.flatMap((field, i) => (read.uses.includes(field.key) ? [{ field, i }] : []));
  const missing = figures.filter((figure) => figure === null).length;
  const text = (value: KeyValue, type: Field['type']) =>
    value === null ? '–' : keyText(value, english, type);
  if (!rows.length) return null;
  return (
    <div className="sv-trial">
      <table aria-label={tell('dataset.computedField.theFirstRows')}>
        <thead>
          <tr>
            {used.map(({ field }) => (
              <th key={field.key}>{field.name}</th>
            ))}
            <th>{tell('dataset.computedField.result')}</th>
          </tr>
        </thead>
        <tbody>
          {rows.slice(0, shown).map((row, r) => (
            // biome-ignore lint/suspicious/noArrayIndexKey: rows have no name but their place
            <tr key={r}>
              {used.map(({ field, i }) => (
                <td key={field.key}>{text(row[i]!, field.type)}</td>
              ))}
              <td className="is-result">{text(figures[r]!, read.type)}</td>
            </tr>
          ))}
        </tbody>
      </table>
      <p className="sv-editor-note">
        {missing
          ? tell('dataset.computedField.missingOfTheFirstRows', { missing, rows: rows.length })
          : tell('dataset.computedField.everyOneOfTheFirst', { rows: rows.length })}
      </p>
    </div>
  );
}

function startsFor(fields: readonly Field[]): string[] {
  const [a, b] = fields.filter(({ type }) => isNumeric(type));
  const date = fields.find(({ type }) => isTemporal(type));
  const text = fields.find(({ type }) => type === 'text');
  return [
    ...(a && b ? [`${b.key} / ${a.key}`] : []),
    ...(date ? [`EXTRACT(ISODOW FROM ${date.key}) IN (6, 7)`] : []),
    ...(a && text ? [`CASE WHEN ${a.key} > 100 THEN ${text.key} ELSE 'others' END`] : []),
  ];
}

interface Props {
  dataset: DatasetView;
  /** The field that is changed; left out, a new one is made. */
  field?: Field | undefined;
  onClose(): void;
}

/** Says how a field is computed from others of its row. Nothing is computed before it is kept. */
export function ComputedField({ dataset, field, onClose }: Props) {
  const [name, setName] = useState(field?.name ?? '');
  const [text, setText] = useState(field?.formula ?? '');
  const engine = useFormulaEngine(true);
  const [add, adding] = useAddFieldMutation();
  const [change, changing] = useChangeFieldMutation();
  const read = useMemo(
    () => (engine && text.trim() ? readRow(text, dataset.fields, engine, field?.key) : null),
    [engine, text, dataset.fields, field],
  );
  const names = useMemo(
    () => dataset.fields.map(({ key, name }) => ({ name: key, note: name })),
    [dataset.fields],
  );
  const starts = useMemo(() => startsFor(dataset.fields.filter(cameWithRows)), [dataset.fields]);
  const busy = adding.isLoading || changing.isLoading;
  const error = adding.error ?? changing.error;
  const right = read?.ok === true && name.trim() !== '';
  const keep = async () => {
    if (!right || busy) return;
    const given = { id: dataset.id, name: name.trim(), formula: text };
    const result = field ? await change({ ...given, key: field.key }) : await add(given);
    if ('data' in result) onClose();
  };
  const onKeyDown = (event: KeyboardEvent) => {
    if (event.key !== 'Escape' || event.defaultPrevented) return;
    event.preventDefault();
    onClose();
  };
  return (
    <form
      className="sv-computed"
      aria-label={
        field
          ? tell('dataset.computedField.howFieldIsComputed', { field: field.name })
          : tell('dataset.computedField.aComputedField')
      }
      onKeyDown={onKeyDown}
      onSubmit={(event) => {
        event.preventDefault();
        void keep();
      }}
    >
      <div>
        <Form.Control
          size="sm"
          aria-label={tell('dataset.computedField.nameOfTheField')}
          placeholder={tell('dataset.computedField.nameOfTheField')}
          maxLength={200}
          value={name}
          onChange={({ target }) => setName(target.value)}
        />
        <FormulaField
          label={tell('dataset.computedField.formula')}
          value={text}
          names={names}
          problem={read && !read.ok ? read.problem : null}
          note={tell('dataset.computedField.anSqlExpressionOverOne')}
          starts={text.trim() ? [] : starts}
          onChange={setText}
        />
        {error && <Problem>{problemText(error)}</Problem>}
        {read?.ok && !name.trim() && (
          <p className="sv-editor-note">{tell('dataset.computedField.giveTheFieldAName')}</p>
        )}
        <div className="sv-computed-foot">
          <Button type="submit" size="sm" disabled={!right || busy}>
            {busy
              ? tell('dataset.computedField.calculatingRowsRows', { rows: dataset.rows })
              : field
                ? tell('dataset.computedField.saveChanges')
                : tell('dataset.computedField.addField')}
          </Button>{' '}
          <Button size="sm" variant="outline-secondary" onClick={onClose}>
            {tell('dataset.computedField.cancel')}
          </Button>
        </div>
      </div>
      {read?.ok && <Trial dataset={dataset} read={read} />}
    </form>
  );
}
