import type { DatasetView, DataVersion } from '@sorvik/core/board/api-types';
import { useState } from 'react';
import { Button, Table } from 'react-bootstrap';
import { Link } from 'react-router';
import { problemText } from '../app/api';
import { useDataChangesQuery, useDataVersionsQuery, useGoBackMutation } from '../app/editing-api';
import { Problem } from '../ui/Problem';
import { tell } from '../ui/tell';
import { momentText } from '../ui/time-text';

const signed = (sign: string, count: number) => (count ? `${sign}${count.toLocaleString('en')}` : '');

/** Some of the rows that only one of two versions has. */
function Rows({ heading, fields, rows }: { heading: string; fields: string[]; rows: unknown[][] }) {
  return (
    <>
      <h3>{heading}</h3>
      {rows.length > 0 && (
        <div className="sv-changed-rows">
          <Table size="sm">
            <thead>
              <tr>
                {fields.map((name) => (
                  <th key={name}>{name}</th>
                ))}
              </tr>
            </thead>
            <tbody>
              {rows.map((row, i) => (
                // biome-ignore lint/suspicious/noArrayIndexKey: rows may be alike
                <tr key={i}>
                  {row.map((cell, c) => (
                    <td key={fields[c]}>{cell === null ? '–' : String(cell)}</td>
                  ))}
                </tr>
              ))}
            </tbody>
          </Table>
        </div>
      )}
    </>
  );
}

/** What changed from the version before to this one. */
function Change({ dataset, from, to }: { dataset: string; from: number; to: number }) {
  const { data, error } = useDataChangesQuery({ id: dataset, from, to });
  if (error) return <Problem>{problemText(error)}</Problem>;
  if (!data) return <p className="sv-loading">{tell('dataset.versions.comparing')}</p>;
  return (
    <div data-part="change">
      <Rows
        heading={tell('dataset.versions.added', { n: data.added.count, shown: data.added.rows.length })}
        fields={data.fields}
        rows={data.added.rows}
      />
      <Rows
        heading={tell('dataset.versions.removed', { n: data.removed.count, shown: data.removed.rows.length })}
        fields={data.fields}
        rows={data.removed.rows}
      />
    </div>
  );
}

interface RowProps {
  dataset: DatasetView;
  version: DataVersion;
  before: DataVersion | undefined;
  open: boolean;
  onOpen(): void;
}

function VersionRow({ dataset, version, before, open, onOpen }: RowProps) {
  const [back, { isLoading, error }] = useGoBackMutation();
  const { seq, at, kind, rows, rowsIn, rowsOut, from, current } = version;
  return (
    <>
      <tr data-version={seq}>
        <td>{momentText(at)}</td>
        <td>{tell('dataset.versions.what', { kind, from })}</td>
        <td className="text-end">{signed('+', rowsIn)}</td>
        <td className="text-end">{signed('−', rowsOut)}</td>
        <td className="text-end">{rows.toLocaleString('en')}</td>
        <td className="text-end sv-actions">
          {before && (
            <Button size="sm" variant="quiet" aria-expanded={open} onClick={onOpen}>
              {open ? tell('dataset.versions.hide') : tell('dataset.versions.whatChanged')}
            </Button>
          )}
          {current ? (
            <span className="sv-hint">{tell('dataset.versions.current')}</span>
          ) : (
            <Button
              size="sm"
              variant="outline-secondary"
              disabled={isLoading}
              aria-label={tell('dataset.versions.goBackTo', { time: momentText(at) })}
              onClick={() => back({ id: dataset.id, version: seq })}
            >
              {tell('dataset.versions.goBack')}
            </Button>
          )}
        </td>
      </tr>
      {(open || error) && (
        <tr>
          <td colSpan={6}>
            {error && <Problem role="alert">{problemText(error)}</Problem>}
            {open && before && <Change dataset={dataset.id} from={before.seq} to={seq} />}
          </td>
        </tr>
      )}
    </>
  );
}

/** What the rows have been, what changed each time, and the way back. */
export function DataVersions({ dataset }: { dataset: DatasetView }) {
  const { data: versions, error } = useDataVersionsQuery({ id: dataset.id, version: dataset.version });
  const [open, setOpen] = useState<number | null>(null);
  return (
    <section aria-labelledby="versions">
      <div className="sv-section-head">
        <h2 id="versions">{tell('dataset.versions.heading')}</h2>
        <Link className="btn btn-sm btn-outline-secondary" to={`/datasets/${dataset.id}/refresh`}>
          {tell('dataset.versions.newRows')}
        </Link>
      </div>
      {error && <Problem>{problemText(error)}</Problem>}
      {versions && (
        <div className="sv-field-table">
          <Table size="sm">
            <thead>
              <tr>
                <th>{tell('dataset.versions.when')}</th>
                <th>{tell('dataset.versions.whatHappened')}</th>
                <th className="text-end">{tell('dataset.versions.in')}</th>
                <th className="text-end">{tell('dataset.versions.out')}</th>
                <th className="text-end">{tell('dataset.versions.rows')}</th>
                <th>
                  <span className="visually-hidden">{tell('dataset.versions.whatCanBeDone')}</span>
                </th>
              </tr>
            </thead>
            <tbody>
              {versions.map((version, i) => (
                <VersionRow
                  key={version.seq}
                  dataset={dataset}
                  version={version}
                  before={versions[i + 1]}
                  open={open === version.seq}
                  onOpen={() => setOpen(open === version.seq ? null : version.seq)}
                />
              ))}
            </tbody>
          </Table>
        </div>
      )}
    </section>
  );
}
