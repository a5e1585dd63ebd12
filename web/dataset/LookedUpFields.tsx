import { skipToken } from '@reduxjs/toolkit/query/react';
import type { DatasetView, LookupPreview } from '@sorvik/core/board/api-types';
import { isComparable } from '@sorvik/core/data/values';
import { type FormEvent, useEffect, useRef, useState } from 'react';
import { Button, Form } from 'react-bootstrap';
import { problemText } from '../app/api';
import { useAddLookupsMutation, useDatasetsQuery, useLookupPreviewQuery } from '../app/editing-api';
import { IncomingFile } from '../incoming/IncomingFile';
import { Problem } from '../ui/Problem';
import { tell } from '../ui/tell';

type Field = DatasetView['fields'][number];
interface Pair {
  from: string;
  on: string;
}

const plain = (name: string) => name.trim().toLowerCase();

/** Whether some values of two fields may be the same, as far as their least and greatest tell. */
function overlap(a: Field, b: Field): boolean {
  const [x, y] = [a.profile, b.profile];
  if (x?.min == null || x.max == null || y?.min == null || y.max == null) return true;
  return x.min <= y.max && y.min <= x.max;
}

/** How likely rows are matched by two fields: where each value stands once there, they are called alike, and are words. */
const likeliness = (from: Field, on: Field, rows: number): number =>
  (on.profile?.distinct === rows ? 4 : 0) +
  (plain(from.name) === plain(on.name) ? 3 : 0) +
  (on.type === 'text' ? 4 : on.type === 'integer' ? 1 : 0) +
  (overlap(from, on) ? 3 : 0);

/** The two fields by which rows are most likely matched. */
function likelyPair(own: readonly Field[], { fields, rows }: DatasetView): Pair {
  let [best, most]: [Pair, number] = [{ from: own[0]?.key ?? '', on: fields[0]?.key ?? '' }, 0];
  for (const from of own)
    for (const on of fields) {
      const likely = isComparable(from.type, on.type) ? likeliness(from, on, rows) : 0;
      if (likely > most) [best, most] = [{ from: from.key, on: on.key }, likely];
    }
  return best;
}

/** What a field is called here: what it is called there, or that with the name of the other dataset. */
function nameHere(own: readonly Field[], other: DatasetView, { name }: Field): string {
  const isTaken = own.some((each) => plain(each.name) === plain(name));
  return isTaken ? tell('dataset.lookup.nameHere', { name, dataset: other.name }) : name;
}

interface FieldWordProps {
  label: string;
  fields: readonly Field[];
  value: string;
  onChange(key: string): void;
}

function FieldWord({ label, fields, value, onChange }: FieldWordProps) {
  return (
    <Form.Select
      size="sm"
      className="sv-lookup-word"
      aria-label={label}
      value={value}
      onChange={({ target }) => onChange(target.value)}
    >
      {fields.map(({ key, name }) => (
        <option key={key} value={key}>
          {name}
        </option>
      ))}
    </Form.Select>
  );
}

interface FoundProps {
  preview: LookupPreview;
  from: Field;
  on: Field;
  other: DatasetView;
}

/** How many rows find one in the other dataset, and what keeps the rest from it. */
function Found({ preview: { rows, unmatched, doubled }, from, on, other }: FoundProps) {
  return (
    <ul className="sv-lookup-found">
      <li>
        {tell('dataset.lookup.matched', {
          matched: rows.matched,
          rows: rows.matched + rows.unmatched + rows.empty,
        })}
      </li>
      {unmatched.count > 0 && (
        <li>
          {tell('dataset.lookup.unmatched', {
            rows: rows.unmatched,
            n: unmatched.count,
            values: unmatched.examples.join(', '),
            more: unmatched.count - unmatched.examples.length,
            dataset: other.name,
          })}
        </li>
      )}
      {rows.empty > 0 && <li>{tell('dataset.lookup.empty', { rows: rows.empty, field: from.name })}</li>}
      {doubled.count > 0 && (
        <li>
          <strong>
            {tell('dataset.lookup.doubled', {
              n: doubled.count,
              values: doubled.examples.join(', '),
              more: doubled.count - doubled.examples.length,
              field: on.name,
              dataset: other.name,
            })}
          </strong>
        </li>
      )}
    </ul>
  );
}

/** Says which row of the other dataset is meant and what of it is wanted, once it has been counted how that turns out. */
function Chosen({ dataset, other, onClose }: { dataset: DatasetView; other: DatasetView; onClose(): void }) {
  const [{ from, on }, setPair] = useState(() => likelyPair(dataset.fields, other));
  const [wanted, setWanted] = useState<readonly string[]>([]);
  const [mine, its] = [
    dataset.fields.find(({ key }) => key === from),
    other.fields.find(({ key }) => key === on),
  ];
  const fits = mine && its && isComparable(mine.type, its.type);
  const keys = { dataset: other.id, from, on };
  const {
    currentData: preview,
    error,
    isFetching,
  } = useLookupPreviewQuery(fits ? { id: dataset.id, ...keys } : skipToken, {
    refetchOnMountOrArgChange: true,
  });
  const [add, { isLoading, error: failure }] = useAddLookupsMutation();
  const offered = other.fields.filter(({ key }) => key !== on);
  const chosen = offered.filter(({ key }) => wanted.includes(key));
  const submit = async (event: FormEvent) => {
    event.preventDefault();
    const fields = chosen.map((field) => ({
      field: field.key,
      name: nameHere(dataset.fields, other, field),
    }));
    const result = await add({ id: dataset.id, ...keys, fields });
    if ('data' in result) onClose();
  };
  return (
    <Form onSubmit={submit}>
      <fieldset className="sv-row">
        <legend className="visually-hidden">{tell('dataset.lookup.whichRow')}</legend>
        {tell('dataset.lookup.where')}
        <FieldWord
          label={tell('dataset.lookup.fieldHere')}
          fields={dataset.fields}
          value={from}
          onChange={(key) => setPair({ from: key, on })}
        />
        {tell('dataset.lookup.equals')}
        <FieldWord
          label={tell('dataset.lookup.fieldThere', { dataset: other.name })}
          fields={other.fields}
          value={on}
          onChange={(key) => setPair({ from, on: key })}
        />
        {tell('dataset.lookup.ofDataset', { dataset: other.name })}
      </fieldset>
      {!fits && <Problem>{tell('dataset.lookup.otherTypes')}</Problem>}
      {error && fits && <Problem>{problemText(error)}</Problem>}
      {isFetching && <p className="sv-hint">{tell('dataset.lookup.counting')}</p>}
      <div role="status">
        {preview && fits && <Found preview={preview} from={mine} on={its} other={other} />}
      </div>
      <fieldset className="sv-lookup-fields">
        <legend>{tell('dataset.lookup.whichFields')}</legend>
        {offered.map((field) => {
          const name = nameHere(dataset.fields, other, field);
          return (
            <Form.Check
              key={field.key}
              id={`look-up-${field.key}`}
              label={
                name === field.name ? name : tell('dataset.lookup.calledHere', { field: field.name, name })
              }
              checked={wanted.includes(field.key)}
              onChange={({ target }) =>
                setWanted(target.checked ? [...wanted, field.key] : wanted.filter((key) => key !== field.key))
              }
            />
          );
        })}
      </fieldset>
      {failure && <Problem role="alert">{problemText(failure)}</Problem>}
      <div className="sv-row">
        <Button
          type="submit"
          size="sm"
          disabled={isLoading || !chosen.length || !preview || preview.doubled.count > 0}
        >
          {isLoading
            ? tell('dataset.lookup.lookingUp', { rows: dataset.rows })
            : tell('dataset.lookup.add', { n: chosen.length })}
        </Button>
        <Button size="sm" variant="outline-secondary" onClick={onClose}>
          {tell('dataset.lookup.cancel')}
        </Button>
      </div>
    </Form>
  );
}

/** A dataset that came in for this: it is the one that is looked up in from here on. */
function Arrived({ dataset, onArrived }: { dataset: string; onArrived(id: string): void }) {
  useEffect(() => onArrived(dataset), [dataset, onArrived]);
  return null;
}

interface Props {
  dataset: DatasetView;
  /** The other dataset, where it is known already. */
  other?: string | undefined;
  onClose(): void;
}

/** Adds fields to a dataset whose values another one has, by a field that both have. */
export function LookedUpFields({ dataset, other: given, onClose }: Props) {
  const { data: datasets = [] } = useDatasetsQuery(undefined, { refetchOnMountOrArgChange: true });
  const [id, setId] = useState(given ?? '');
  const [files, setFiles] = useState<readonly File[] | null>(null);
  const chooser = useRef<HTMLInputElement>(null);
  const others = datasets.filter((each) => each.id !== dataset.id && !each.inPlace);
  const other = others.find((each) => each.id === id);
  const onArrived = (arrived: string) => {
    setId(arrived);
    setFiles(null);
  };
  return (
    <section className="sv-lookup" aria-labelledby="look-up">
      <h3 id="look-up">{tell('dataset.lookup.heading')}</h3>
      <div className="sv-row">
        {others.length > 0 && (
          <Form.Select
            size="sm"
            className="sv-lookup-word"
            aria-label={tell('dataset.lookup.otherDataset')}
            value={other?.id ?? ''}
            onChange={({ target }) => setId(target.value)}
          >
            <option value="" disabled>
              {tell('dataset.lookup.chooseADataset')}
            </option>
            {others.map(({ id, name }) => (
              <option key={id} value={id}>
                {name}
              </option>
            ))}
          </Form.Select>
        )}
        <Button size="sm" variant="outline-secondary" onClick={() => chooser.current?.click()}>
          {tell('dataset.lookup.chooseAFile')}
        </Button>
        <input
          ref={chooser}
          type="file"
          hidden
          aria-label={tell('dataset.lookup.fileToLookUpIn')}
          onChange={({ target }) => {
            if (target.files?.length) setFiles([...target.files]);
            target.value = '';
          }}
        />
        {!other && (
          <Button size="sm" variant="outline-secondary" onClick={onClose}>
            {tell('dataset.lookup.cancel')}
          </Button>
        )}
      </div>
      {files && (
        <IncomingFile files={files} address="/api/imports" onClose={() => setFiles(null)}>
          {(view) => <Arrived dataset={view.dataset!} onArrived={onArrived} />}
        </IncomingFile>
      )}
      {other && <Chosen key={other.id} dataset={dataset} other={other} onClose={onClose} />}
    </section>
  );
}
