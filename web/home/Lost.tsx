import { Link } from 'react-router';
import { TopBar } from '../ui/TopBar';

export function Lost() {
  return (
    <>
      <TopBar />
      <main className="sv-page">
        <h1>Page not found</h1>
        <p>
          <Link to="/">All boards and datasets</Link>
        </p>
      </main>
    </>
  );
}
