import { useEffect, useRef } from 'react';
import { Link } from 'react-router';
import { problemText } from '../app/api';
import { useComeBackMutation } from '../app/people-api';
import { Problem } from '../ui/Problem';
import { tell } from '../ui/tell';

/** Where a provider of identities sends whoever has signed in there. */
export function SignedIn() {
  const [comeBack, { data, error }] = useComeBackMutation();
  const begun = useRef(false);
  useEffect(() => {
    if (begun.current) return;
    begun.current = true;
    void comeBack(location.search);
  }, [comeBack]);
  useEffect(() => {
    if (data) location.replace('/');
  }, [data]);
  if (!error) return <p className="sv-loading">{tell('home.home.loading')}</p>;
  return (
    <main className="sv-door">
      <title>{tell('people.signIn.title')}</title>
      <h1>{tell('people.signIn.notIn')}</h1>
      <Problem>{problemText(error)}</Problem>
      <Link to="/">{tell('people.signIn.title')}</Link>
    </main>
  );
}
