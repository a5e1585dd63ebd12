import type { ConnectionView } from '@sorvik/core/board/api-types';
import { useState } from 'react';
import { Button } from 'react-bootstrap';
import { Link } from 'react-router';
import { problemText } from '../app/api';
import { useConnectionsQuery, useRemoveConnectionMutation } from '../app/editing-api';
import { Notices } from '../ui/Notices';
import { Problem } from '../ui/Problem';
import { TopBar } from '../ui/TopBar';
import { tell } from '../ui/tell';
import { ConnectionForm } from './ConnectionForm';

/** One database: where it is, what of it is used, and what can be done with it. */
function ConnectionCard({ connection }: { connection: ConnectionView }) {
  const [editing, setEditing] = useState(false);
  const [remove, { error, isLoading }] = useRemoveConnectionMutation();
  const { id, name, host, port, database, user, tls, datasets } = connection;
  return (
    <article className="sv-connection" data-connection={name} aria-label={name}>
      <header className="sv-section-head">
        <h2>
          <Link to={`/databases/${id}`}>{name}</Link>
        </h2>
        <span className="sv-hint">
          {tell('databases.card.where', {
            database,
            host,
            port: String(port),
            user,
            encrypted: tls === 'off' ? 'no' : 'yes',
          })}
        </span>
      </header>
      {datasets.length > 0 && (
        <ul className="sv-connection-tables" aria-label={tell('databases.card.used')}>
          {datasets.map((dataset) => (
            <li key={dataset.id}>
              <Link to={`/datasets/${dataset.id}`}>{dataset.name}</Link>
            </li>
          ))}
        </ul>
      )}
      {error && <Problem role="alert">{problemText(error)}</Problem>}
      {editing ? (
        <ConnectionForm connection={connection} onClose={() => setEditing(false)} />
      ) : (
        <div className="sv-row">
          <Link className="btn btn-sm btn-primary" to={`/databases/${id}`}>
            {tell('databases.card.tables')}
          </Link>
          <Button size="sm" variant="outline-secondary" onClick={() => setEditing(true)}>
            {tell('databases.card.edit')}
          </Button>
          <Button size="sm" variant="quiet" disabled={isLoading} onClick={() => remove(id)}>
            {tell('databases.card.remove')}
          </Button>
        </div>
      )}
    </article>
  );
}

/** Other databases, of which tables can be read where they are. */
export function Databases() {
  const { data: connections, error } = useConnectionsQuery(undefined, { refetchOnMountOrArgChange: true });
  const [adding, setAdding] = useState(false);
  const none = connections?.length === 0;
  return (
    <>
      <title>{tell('databases.page.tabTitle')}</title>
      <TopBar place={tell('databases.page.title')} />
      <main className="sv-page">
        <h1>{tell('databases.page.title')}</h1>
        <p className="sv-hint">{tell('databases.page.intro')}</p>
        {error && <Problem>{problemText(error)}</Problem>}
        {connections?.map((connection) => (
          <ConnectionCard key={connection.id} connection={connection} />
        ))}
        {adding || none ? (
          <ConnectionForm onClose={none ? undefined : () => setAdding(false)} />
        ) : (
          connections && (
            <Button size="sm" variant="outline-secondary" onClick={() => setAdding(true)}>
              {tell('databases.page.add')}
            </Button>
          )
        )}
      </main>
      <Notices />
    </>
  );
}
