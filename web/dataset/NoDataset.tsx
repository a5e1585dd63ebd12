import { Link } from 'react-router';
import { problemText } from '../app/api';
import { TopBar } from '../ui/TopBar';
import { tell } from '../ui/tell';

/** In the place of a page of a dataset that cannot be read: why, and the way back. */
export const NoDataset = ({ error }: { error: unknown }) => (
  <>
    <TopBar />
    <main className="sv-page">
      <h1>{tell('dataset.noDataset.thisDatasetCannotBeOpened')}</h1>
      <p>{problemText(error)}</p>
      <Link to="/">{tell('dataset.noDataset.allBoardsAndDatasets')}</Link>
    </main>
  </>
);
