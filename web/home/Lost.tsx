import { Link } from 'react-router';
import { TopBar } from '../ui/TopBar';

export function Lost() {
  return (
    <>
      <TopBar />
      <main className="sv-page">
        <h1>There is nothing at this address</h1>
        <p>
          <Link to="/">All boards and datasets</Link>
        </p>
      </main>
    </>
  );
}
