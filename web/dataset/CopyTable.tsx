import { Button } from 'react-bootstrap';
import { Link } from 'react-router';
import { problemText } from '../app/api';
import { useCopyTableMutation } from '../app/editing-api';
import { ServerImport } from '../incoming/IncomingFile';
import { Problem } from '../ui/Problem';
import { tell } from '../ui/tell';

/** Copies the rows of a table in place into a dataset of their own, which can be refreshed from it. */
export function CopyTable({ id, name }: { id: string; name: string }) {
  const [copy, { data, error, isLoading }] = useCopyTableMutation();
  return (
    <section aria-label={tell('dataset.copyTable.copyRows')}>
      {data ? (
        <ServerImport id={data.id} file={name}>
          {({ dataset, rows }) => (
            <p role="status">
              <strong>{tell('dataset.copyTable.copied', { rows })}</strong>{' '}
              <Link to={`/datasets/${dataset}`}>{tell('dataset.copyTable.toTheCopy')}</Link>
              {' · '}
              <Link to={`/datasets/${dataset}/refresh?from=${id}#by-itself`}>
                {tell('dataset.copyTable.refreshIt')}
              </Link>
            </p>
          )}
        </ServerImport>
      ) : (
        <Button size="sm" variant="outline-secondary" disabled={isLoading} onClick={() => copy(id)}>
          {isLoading ? tell('dataset.copyTable.fetching') : tell('dataset.copyTable.copyRows')}
        </Button>
      )}
      {error && <Problem role="alert">{problemText(error)}</Problem>}
    </section>
  );
}
