import { skipToken } from '@reduxjs/toolkit/query/react';
import type { RemoteTable } from '@sorvik/core/board/api-types';
import { type FormEvent, useRef, useState } from 'react';
import { Button, Form, Table } from 'react-bootstrap';
import { Link, useNavigate, useParams } from 'react-router';
import { isAborted, problemText } from '../app/api';
import {
  useConnectionsQuery,
  usePlaceTableMutation,
  useRemoteTableQuery,
  useRemoteTablesQuery,
} from '../app/editing-api';
import { typeNames } from '../dataset/TypeWord';
import { Notices } from '../ui/Notices';
import { Problem } from '../ui/Problem';
import { TopBar } from '../ui/TopBar';
import { tell } from '../ui/tell';

/** The columns of a table, and the name that it is to have here. */
function ChosenTable({ id, table, onClose }: { id: string; table: RemoteTable; onClose(): void }) {
  const navigate = useNavigate();
  const { schema, name: its } = table;
  const { data: found, error } = useRemoteTableQuery({ id, schema, table: its });
  const [name, setName] = useState(its);
  const [placeTable, { error: failure, isLoading }] = usePlaceTableMutation();
  const asked = useRef<{ abort(): void }>(null);
  const use = async (event: FormEvent) => {
    event.preventDefault();
    const request = placeTable({ id, schema, table: its, name: name.trim() || its });
    asked.current = request;
    const result = await request;
    if (result.data) void navigate(`/datasets/${result.data.id}`);
  };
  return (
    <section className="sv-chosen-table" aria-label={its} data-part="chosen-table">
      <header className="sv-section-head">
        <h2>{its}</h2>
        <button
          type="button"
          className="btn-close ms-auto"
          aria-label={tell('databases.table.close')}
          onClick={onClose}
        />
      </header>
      {error && <Problem role="alert">{problemText(error)}</Problem>}
      {!error && !found && <p className="sv-loading">{tell('databases.table.reading')}</p>}
      {found && (
        <>
          <div className="sv-field-table">
            <Table size="sm">
              <thead>
                <tr>
                  <th>{tell('databases.table.column')}</th>
                  <th>{tell('databases.table.there')}</th>
                  <th>{tell('databases.table.here')}</th>
                </tr>
              </thead>
              <tbody>
                {found.fields.map((field) => (
                  <tr key={field.name}>
                    <td>{field.name}</td>
                    <td className="sv-hint">{field.is}</td>
                    <td className={field.type ? '' : 'sv-nothing'}>
                      {field.type ? typeNames[field.type] : tell('databases.table.leftOut')}
                    </td>
                  </tr>
                ))}
              </tbody>
            </Table>
          </div>
          {found.changeable && <p className="sv-notice">{tell('databases.table.changeable')}</p>}
          <Form className="sv-row" onSubmit={use}>
            <Form.Control
              size="sm"
              className="sv-dataset-name"
              aria-label={tell('databases.table.nameHere')}
              maxLength={200}
              value={name}
              onChange={(event) => setName(event.target.value)}
            />
            <Button size="sm" type="submit" disabled={isLoading || !found.fields.some(({ type }) => type)}>
              {isLoading ? tell('databases.table.looking') : tell('databases.table.use')}
            </Button>
            {isLoading && (
              <Button size="sm" variant="outline-secondary" onClick={() => asked.current?.abort()}>
                {tell('databases.table.cancel')}
              </Button>
            )}
          </Form>
          {isLoading && (
            <p className="sv-hint" role="status">
              {tell('databases.table.lookingHint')}
            </p>
          )}
          {failure && !isAborted(failure) && <Problem role="alert">{problemText(failure)}</Problem>}
        </>
      )}
    </section>
  );
}

const searchFrom = 12;

/** The tables and views of a database, one of which can become a dataset. */
export function DatabasePage() {
  const { id = '' } = useParams();
  const { data: connections } = useConnectionsQuery();
  const connection = connections?.find((each) => each.id === id);
  const { data: tables, error, refetch, isFetching } = useRemoteTablesQuery(connection ? id : skipToken);
  const [search, setSearch] = useState('');
  const [chosen, setChosen] = useState<RemoteTable | null>(null);
  const wanted = search.trim().toLowerCase();
  const found = tables?.filter(({ schema, name }) => `${schema}.${name}`.toLowerCase().includes(wanted));
  if (connections && !connection) return <Problem>{tell('databases.page.gone')}</Problem>;
  if (!connection) return <p className="sv-loading">{tell('databases.table.reading')}</p>;
  return (
    <>
      <title>{tell('databases.page.tableTabTitle', { name: connection.name })}</title>
      <TopBar
        place={
          <>
            <Link to="/databases">{tell('databases.page.title')}</Link> <span className="sv-slash">/</span>{' '}
            <strong>{connection.name}</strong>
          </>
        }
      />
      <main className="sv-page">
        <h1>{tell('databases.page.tablesOf', { name: connection.name })}</h1>
        <p className="sv-hint">{tell('databases.page.tablesIntro')}</p>
        {error && (
          <>
            <Problem role="alert">{problemText(error)}</Problem>
            <Button
              size="sm"
              variant="outline-secondary"
              disabled={isFetching}
              onClick={() => void refetch()}
            >
              {tell('databases.page.again')}
            </Button>
          </>
        )}
        {!error && !tables && <p className="sv-loading">{tell('databases.table.reading')}</p>}
        {tables?.length === 0 && <p>{tell('databases.page.noTables')}</p>}
        {tables && tables.length > searchFrom && (
          <Form.Control
            size="sm"
            type="search"
            className="sv-table-search"
            aria-label={tell('databases.page.search')}
            placeholder={tell('databases.page.search')}
            value={search}
            onChange={(event) => setSearch(event.target.value)}
          />
        )}
        {chosen && (
          <ChosenTable
            key={`${chosen.schema}.${chosen.name}`}
            id={id}
            table={chosen}
            onClose={() => setChosen(null)}
          />
        )}
        {found && found.length > 0 && (
          <Table className="sv-datasets">
            <thead>
              <tr>
                <th>{tell('databases.page.table')}</th>
                <th>{tell('databases.page.schema')}</th>
                <th>{tell('databases.page.kind')}</th>
                <th className="text-end">{tell('databases.page.rows')}</th>
              </tr>
            </thead>
            <tbody>
              {found.map((table) => (
                <tr key={`${table.schema}.${table.name}`} data-table={table.name}>
                  <td>
                    <button type="button" className="sv-word" onClick={() => setChosen(table)}>
                      {table.name}
                    </button>
                  </td>
                  <td className="sv-hint">{table.schema}</td>
                  <td>
                    {table.kind === 'view' ? tell('databases.page.view') : tell('databases.page.table')}
                  </td>
                  <td className="text-end">
                    {table.rows === null ? '' : tell('databases.page.about', { rows: table.rows })}
                  </td>
                </tr>
              ))}
            </tbody>
          </Table>
        )}
        {wanted && found?.length === 0 && (
          <p>{tell('databases.page.nothingFound', { search: search.trim() })}</p>
        )}
      </main>
      <Notices />
    </>
  );
}
