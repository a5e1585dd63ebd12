import type { PersonView } from '@sorvik/core/board/api-types';
import { type FormEvent, useState } from 'react';
import { Button, Form } from 'react-bootstrap';
import { Link } from 'react-router';
import { problemText } from '../app/api';
import {
  useChangePasswordMutation,
  useEndSessionMutation,
  useMeQuery,
  useSessionsQuery,
  useSignOutMutation,
} from '../app/people-api';
import { DropButton } from '../ui/DropButton';
import { Problem } from '../ui/Problem';
import { tell } from '../ui/tell';
import { momentText } from '../ui/time-text';
import { agentText } from './agent-text';
import { Tokens } from './Tokens';

function Password() {
  const [now, setNow] = useState('');
  const [password, setPassword] = useState('');
  const [change, { error, isLoading, isSuccess }] = useChangePasswordMutation();
  const submit = async (event: FormEvent) => {
    event.preventDefault();
    if (!('data' in (await change({ now, password })))) return;
    setNow('');
    setPassword('');
  };
  return (
    <Form onSubmit={submit} aria-label={tell('people.account.password')}>
      <Form.Group controlId="password-now">
        <Form.Label>{tell('people.account.now')}</Form.Label>
        <Form.Control
          size="sm"
          type="password"
          required
          autoComplete="current-password"
          value={now}
          onChange={(event) => setNow(event.target.value)}
        />
      </Form.Group>
      <Form.Group controlId="password-new">
        <Form.Label>{tell('people.newPassword')}</Form.Label>
        <Form.Control
          size="sm"
          type="password"
          required
          minLength={10}
          maxLength={200}
          autoComplete="new-password"
          value={password}
          onChange={(event) => setPassword(event.target.value)}
        />
        <Form.Text>{tell('people.passwordHint')}</Form.Text>
      </Form.Group>
      {error && <Problem role="alert">{problemText(error)}</Problem>}
      {isSuccess && <p role="status">{tell('people.account.changed')}</p>}
      <Button size="sm" type="submit" variant="outline-secondary" disabled={isLoading}>
        {tell('people.account.change')}
      </Button>
    </Form>
  );
}

function Sessions() {
  const { data: sessions = [] } = useSessionsQuery();
  const [end] = useEndSessionMutation();
  return (
    <ul className="sv-sessions" aria-label={tell('people.account.sessions')}>
      {sessions.map(({ id, agent, address, usedAt, here }) => (
        <li key={id}>
          <span>
            {agentText(agent)}
            <span className="sv-hint">
              {' '}
              {here
                ? tell('people.account.here')
                : tell('people.account.usedAt', { time: momentText(usedAt), address })}
            </span>
          </span>
          {!here && (
            <button type="button" className="btn btn-sm btn-quiet" onClick={() => end(id)}>
              {tell('people.account.end')}
            </button>
          )}
        </li>
      ))}
    </ul>
  );
}

function Account({ person }: { person: PersonView }) {
  const [signOut] = useSignOutMutation();
  return (
    <div className="sv-account">
      <div className="sv-section-head">
        <span className="sv-hint">{person.email}</span>
        <Button size="sm" onClick={() => void signOut().then(() => location.assign('/'))}>
          {tell('people.account.signOut')}
        </Button>
      </div>
      <h2>{tell('people.account.password')}</h2>
      <Password />
      <h2>{tell('people.account.sessions')}</h2>
      <Sessions />
      <h2>{tell('people.tokens.title')}</h2>
      <Tokens />
    </div>
  );
}

/** Who is signed in, and what is theirs; nothing where nobody signs in. */
export function AccountButton() {
  const { data: me } = useMeQuery();
  if (!me?.person) return null;
  const { person } = me;
  return (
    <>
      {person.owner && (
        <Link className="btn btn-sm btn-quiet" to="/people">
          {tell('people.page.title')}
        </Link>
      )}
      <DropButton label={person.name} title={tell('people.account.title')} placement="bottom-end">
        {() => <Account person={person} />}
      </DropButton>
    </>
  );
}
