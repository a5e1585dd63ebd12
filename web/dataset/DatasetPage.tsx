import type { DatasetView } from '@sorvik/core/board/api-types';
import type { Lookup } from '@sorvik/core/data/dataset';
import { english } from '@sorvik/core/messages/locale';
import { keyText } from '@sorvik/core/words/key-text';
import { numberText } from '@sorvik/core/words/number-text';
import { lazy, Suspense, useEffect, useRef, useState } from 'react';
import { Button, Table } from 'react-bootstrap';
import { Link, useParams, useSearchParams } from 'react-router';
import { isAborted, problemText, useDatasetQuery } from '../app/api';
import {
  useDatasetsQuery,
  useLookAgainMutation,
  useRenameDatasetMutation,
  useRenameFieldMutation,
} from '../app/editing-api';
import { ShareButton } from '../people/Share';
import { InlineText } from '../ui/InlineText';
import { Notices } from '../ui/Notices';
import { Problem } from '../ui/Problem';
import { TopBar } from '../ui/TopBar';
import { tell, tellWith } from '../ui/tell';
import { ScheduleStatus } from './BySelf';
import { ComputedField } from './ComputedField';
import { CopyTable } from './CopyTable';
import { DataVersions } from './DataVersions';
import { DropField } from './DropField';
import { LookedUpFields } from './LookedUpFields';
import { NoDataset } from './NoDataset';
import { RowRule } from './RowRule';
import { RowsTable } from './RowsTable';
import { SetAside } from './SetAside';
import { TypeWord, typeNames } from './TypeWord';

/** In place of a key: none has a space. */
const newOne = tell('dataset.datasetPage.newOne');

const FieldChart = lazy(() => import('./FieldChart').then(({ FieldChart }) => ({ default: FieldChart })));

function bound(value: string | number | null, field: DatasetView['fields'][number]): string {
  if (value === null) return '–';
  if (field.type === 'boolean') return keyText(value === 'true', english, field.type);
  return typeof value === 'number'
    ? numberText(value, english)
    : keyText(field.type === 'datetime' ? value.replace(' ', 'T') : value, english, field.type);
}

type Field = DatasetView['fields'][number];

/** Where the values of a field are looked up. */
function LookedUpFrom({ lookup }: { lookup: Lookup }) {
  const { data: datasets } = useDatasetsQuery();
  const other = datasets?.find(({ id }) => id === lookup.dataset);
  return tellWith('dataset.datasetPage.lookedUp', {
    dataset: other ? (
      <Link key="dataset" to={`/datasets/${other.id}`}>
        {other.name}
      </Link>
    ) : (
      '…'
    ),
  });
}

function FieldRow({ dataset, field, onCompute }: { dataset: DatasetView; field: Field; onCompute(): void }) {
  const [rename] = useRenameFieldMutation();
  const profile = field.profile;
  return (
    <tr data-field={field.key}>
      <td>
        <InlineText
          value={field.name}
          label={tell('dataset.datasetPage.nameOfKey', { key: field.key })}
          onKeep={(name) => rename({ id: dataset.id, key: field.key, name })}
        />
      </td>
      <td>
        {dataset.inPlace ? (
          typeNames[field.type]
        ) : field.lookup ? (
          <span className="sv-computed-type">
            {typeNames[field.type]}, <LookedUpFrom lookup={field.lookup} />
            <DropField dataset={dataset} field={field} />
          </span>
        ) : field.formula === undefined ? (
          <TypeWord dataset={dataset} field={field} />
        ) : (
          <span className="sv-computed-type">
            {typeNames[field.type]},{' '}
            <button type="button" className="sv-word" title={field.formula} onClick={onCompute}>
              {tell('dataset.datasetPage.computed')}
            </button>
            <DropField dataset={dataset} field={field} />
          </span>
        )}
      </td>
      <td className="text-end">{profile?.count.toLocaleString('en')}</td>
      <td className="text-end">{profile?.distinct.toLocaleString('en')}</td>
      <td className={profile?.missing ? 'text-end' : 'text-end sv-nothing'}>
        {profile?.missing.toLocaleString('en')}
      </td>
      <td className="sv-bound" data-part="bound">
        {profile && bound(profile.min, field)}
      </td>
      <td className="sv-bound" data-part="bound">
        {profile && bound(profile.max, field)}
      </td>
      <td className="sv-field-chart-cell">
        <Suspense fallback={null}>
          <FieldChart
            key={field.type}
            dataset={dataset.id}
            field={field.key}
            version={dataset.version}
            name={field.name}
          />
        </Suspense>
      </td>
    </tr>
  );
}

/** How much there is, where it came from, and what reads it. */
function WhatItHolds({ dataset }: { dataset: DatasetView }) {
  const { source, inPlace } = dataset;
  const held = {
    rows: dataset.rows,
    fields: dataset.fields.length,
    used: dataset.boards.length > 0 ? 'yes' : 'no',
    boards: dataset.boards.map(({ title }) => title).join(', '),
  };
  if (inPlace)
    return tellWith('dataset.datasetPage.whatItHoldsInPlace', {
      ...held,
      table: inPlace.table,
      database: (
        <Link key="database" to={`/databases/${inPlace.connection}`}>
          {inPlace.name}
        </Link>
      ),
    });
  return tellWith('dataset.datasetPage.whatItHolds', {
    ...held,
    lost: dataset.rejected > 0 ? 'yes' : 'no',
    skipped: (
      <a key="skipped" href="#set-aside">
        {tell('dataset.datasetPage.skipped', { n: dataset.rejected })}
      </a>
    ),
    file: source.file,
    format:
      source.format ??
      tell('dataset.datasetPage.separated', { encoding: source.encoding, separator: source.separator }),
  });
}

/** Looks again at a table in place: its columns, its rows and what they are like now. */
function LookAgain({ id }: { id: string }) {
  const [look, { error, isLoading }] = useLookAgainMutation();
  const asked = useRef<{ abort(): void }>(null);
  return (
    <section aria-label={tell('dataset.datasetPage.lookAgain')}>
      <div className="sv-row">
        <Button
          size="sm"
          variant="outline-secondary"
          disabled={isLoading}
          onClick={() => {
            asked.current = look(id);
          }}
        >
          {isLoading ? tell('dataset.datasetPage.looking') : tell('dataset.datasetPage.lookAgain')}
        </Button>
        {isLoading && (
          <Button size="sm" variant="outline-secondary" onClick={() => asked.current?.abort()}>
            {tell('dataset.datasetPage.stopLooking')}
          </Button>
        )}
      </div>
      {error && !isAborted(error) && <Problem role="alert">{problemText(error)}</Problem>}
    </section>
  );
}

/** What is in a dataset: its fields with their profiles, its first rows, and what did not fit. */
export function DatasetPage() {
  const { id = '' } = useParams();
  const [copying, setCopying] = useState(false);
  const { data: dataset, error } = useDatasetQuery(id, {
    refetchOnMountOrArgChange: true,
    pollingInterval: copying ? 1000 : 0,
  });
  const copy = dataset?.copy;
  const isCopying = copy?.state === 'making' || copy?.state === 'waiting';
  useEffect(() => setCopying(isCopying), [isCopying]);
  const [rename] = useRenameDatasetMutation();
  // The computed field that is being changed, by its key; or a new one.
  const [computing, setComputing] = useState<string | null>(null);
  // The dataset that fields are looked up in; empty where it is still to be chosen.
  const [asked, setAsked] = useSearchParams();
  const lookingUp = asked.get('look-up');
  if (error) return <NoDataset error={error} />;
  if (!dataset) return <p className="sv-loading">{tell('dataset.datasetPage.loading')}</p>;
  const { source } = dataset;
  return (
    <>
      <title>{tell('dataset.datasetPage.datasetSorvik', { dataset: dataset.name })}</title>
      <TopBar
        place={
          <InlineText
            value={dataset.name}
            label={tell('dataset.datasetPage.nameOfTheDataset')}
            className="sv-board-title"
            onKeep={(name) => rename({ id, name })}
          />
        }
      >
        <ShareButton kind="dataset" id={id} />
        <Link className="btn btn-sm btn-primary" to={`/datasets/${id}/new-board`}>
          {tell('dataset.datasetPage.newBoardFromThis')}
        </Link>
      </TopBar>
      <main className="sv-page">
        <h1 className="visually-hidden">{dataset.name}</h1>
        <p className="sv-hint">
          <WhatItHolds dataset={dataset} />
        </p>
        {dataset.inPlace && (
          <div className="sv-row">
            <LookAgain id={id} />
            <CopyTable id={id} name={dataset.name} />
          </div>
        )}
        {dataset.restricted && <p className="sv-notice">{tell('dataset.rule.some')}</p>}
        <ScheduleStatus dataset={dataset} />
        {isCopying && (
          <p className="sv-hint" role="status">
            {tell('dataset.datasetPage.copying', {
              percent: copy.state === 'making' ? Math.floor(copy.share * 100) : 0,
            })}
          </p>
        )}
        {copy?.state === 'failed' && <p className="sv-notice">{tell('dataset.datasetPage.noCopy')}</p>}
        {source.notes.map((note) => (
          <p key={note} className="sv-notice">
            {note}
          </p>
        ))}
        <section aria-labelledby="fields">
          <h2 id="fields">{tell('dataset.datasetPage.fields')}</h2>
          <div className="sv-field-table">
            <Table size="sm">
              <thead>
                <tr>
                  <th>{tell('dataset.datasetPage.name')}</th>
                  <th>{tell('dataset.datasetPage.type')}</th>
                  <th className="text-end">{tell('dataset.datasetPage.filled')}</th>
                  <th className="text-end">{tell('dataset.datasetPage.distinct')}</th>
                  <th className="text-end">{tell('dataset.datasetPage.missing')}</th>
                  <th>{tell('dataset.datasetPage.lowest')}</th>
                  <th>{tell('dataset.datasetPage.highest')}</th>
                  <th>{tell('dataset.datasetPage.distribution')}</th>
                </tr>
              </thead>
              <tbody>
                {dataset.fields.map((field) => (
                  <FieldRow
                    key={field.key}
                    dataset={dataset}
                    field={field}
                    onCompute={() => setComputing(field.key)}
                  />
                ))}
              </tbody>
            </Table>
          </div>
          {dataset.inPlace ? null : lookingUp !== null ? (
            <LookedUpFields
              dataset={dataset}
              other={lookingUp || undefined}
              onClose={() => setAsked({}, { replace: true })}
            />
          ) : computing === null ? (
            <div className="sv-row">
              <button
                type="button"
                className="btn btn-sm btn-outline-secondary"
                onClick={() => setComputing(newOne)}
              >
                {tell('dataset.datasetPage.computedField')}
              </button>
              <button
                type="button"
                className="btn btn-sm btn-outline-secondary"
                onClick={() => setAsked({ 'look-up': '' }, { replace: true })}
              >
                {tell('dataset.datasetPage.lookUpFields')}
              </button>
            </div>
          ) : (
            <ComputedField
              key={computing}
              dataset={dataset}
              field={dataset.fields.find(({ key }) => key === computing)}
              onClose={() => setComputing(null)}
            />
          )}
        </section>
        <RowRule dataset={dataset} />
        <SetAside dataset={dataset} />
        {!dataset.inPlace && <DataVersions dataset={dataset} />}
        <section aria-labelledby="rows">
          <div className="sv-section-head">
            <h2 id="rows">{tell('dataset.datasetPage.firstRows')}</h2>
            {!dataset.inPlace && (
              <span className="sv-row">
                {tell('dataset.datasetPage.downloadAll')}
                {['csv', 'parquet', 'arrow'].map((format) => (
                  <a
                    key={format}
                    className="btn btn-sm btn-outline-secondary"
                    href={`/api/datasets/${id}/rows.${format}`}
                    aria-label={tell('dataset.datasetPage.downloadAllAs', { format })}
                    download
                  >
                    {tell('dataset.datasetPage.format', { format })}
                  </a>
                ))}
              </span>
            )}
          </div>
          <RowsTable dataset={dataset} />
        </section>
      </main>
      <Notices />
    </>
  );
}
