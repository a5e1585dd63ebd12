import { english } from '@sorvik/core/messages/locale';
import { Link } from 'react-router';
import { say } from '../ui/say';
import { TopBar } from '../ui/TopBar';

export function Lost() {
  return (
    <>
      <TopBar />
      <main className="sv-page">
        <h1>{say(english, 'lost.title')}</h1>
        <p>
          <Link to="/">{say(english, 'lost.home')}</Link>
        </p>
      </main>
    </>
  );
}
