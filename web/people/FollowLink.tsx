import { type FormEvent, useEffect, useRef, useState } from 'react';
import { Button, Form } from 'react-bootstrap';
import { problemText } from '../app/api';
import { useFollowLinkMutation } from '../app/people-api';
import { Problem } from '../ui/Problem';
import { tell } from '../ui/tell';

/** Where a link to a board leads: to its show, or to the password that it wants first. */
export function FollowLink() {
  // Behind the sign, so that it is in no log of any server.
  const token = location.hash.slice(1);
  const [follow, { data, error, isLoading }] = useFollowLinkMutation();
  const [password, setPassword] = useState('');
  const begun = useRef(false);
  useEffect(() => {
    if (begun.current) return;
    begun.current = true;
    void follow({ token });
  }, [follow, token]);
  useEffect(() => {
    // The page of the show begins anew: it has been let in now.
    if (data && !data.locked)
      location.replace(`/show/${encodeURIComponent(data.board)}${data.positions && `?${data.positions}`}`);
  }, [data]);
  // A wrong password is told in place of an answer; the one before said that there is one.
  const asked = useRef(false);
  if (data?.locked) asked.current = true;
  if (error && !asked.current)
    return (
      <main className="sv-door">
        <title>{tell('people.link.over')}</title>
        <h1>{tell('people.link.over')}</h1>
        <Problem>{problemText(error)}</Problem>
      </main>
    );
  if (!asked.current) return <p className="sv-loading">{tell('home.home.loading')}</p>;
  const submit = (event: FormEvent) => {
    event.preventDefault();
    void follow({ token, password });
  };
  return (
    <main className="sv-door">
      <title>{tell('people.link.locked')}</title>
      <h1>{tell('people.link.locked')}</h1>
      <p>{tell('people.link.lockedHint')}</p>
      <Form onSubmit={submit} aria-label={tell('people.link.locked')}>
        <Form.Group controlId="link-password">
          <Form.Label>{tell('people.password')}</Form.Label>
          <Form.Control
            required
            autoFocus
            type="password"
            maxLength={200}
            autoComplete="off"
            value={password}
            onChange={(event) => setPassword(event.target.value)}
          />
        </Form.Group>
        {error && <Problem role="alert">{problemText(error)}</Problem>}
        <Button type="submit" disabled={isLoading}>
          {tell('people.link.open')}
        </Button>
      </Form>
    </main>
  );
}
