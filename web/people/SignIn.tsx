import { type FormEvent, useState } from 'react';
import { Button, Form } from 'react-bootstrap';
import { problemText } from '../app/api';
import { useForgottenMutation, useMeQuery, useSetOutMutation, useSignInMutation } from '../app/people-api';
import { Problem } from '../ui/Problem';
import { tell } from '../ui/tell';

/** A way on for whoever has forgotten their password. */
function Forgotten({ email }: { email: string }) {
  const { data: me } = useMeQuery();
  const [ask, { error, isLoading, isSuccess }] = useForgottenMutation();
  if (!me?.mails) return <p className="sv-hint">{tell('people.signIn.forgotten')}</p>;
  return (
    <>
      <button
        type="button"
        className="btn btn-sm btn-quiet"
        disabled={!email || isLoading}
        onClick={() => ask(email)}
      >
        {tell('people.signIn.mailLink')}
      </button>
      <p className="sv-hint" role="status">
        {isSuccess ? tell('people.signIn.mailed', { email }) : tell('people.signIn.mailHint')}
      </p>
      {error && <Problem role="alert">{problemText(error)}</Problem>}
    </>
  );
}

/** Signing in elsewhere; nothing where there is no provider. */
function AtProvider() {
  const { data: me } = useMeQuery();
  const [setOut, { error, isLoading }] = useSetOutMutation();
  if (!me?.provider) return null;
  const go = async () => {
    const found = await setOut();
    if (found.data) location.assign(found.data.address);
  };
  return (
    <section>
      <Button variant="outline-secondary" disabled={isLoading} onClick={() => void go()}>
        {tell('people.signIn.provider', { name: me.provider })}
      </Button>
      {error && <Problem role="alert">{problemText(error)}</Problem>}
    </section>
  );
}

/** What stands in place of every page while nobody is signed in. */
export function SignIn() {
  const [email, setEmail] = useState('');
  const [password, setPassword] = useState('');
  const [signIn, { error, isLoading }] = useSignInMutation();
  const submit = async (event: FormEvent) => {
    event.preventDefault();
    // What was asked before was refused: the page begins anew.
    if ('data' in (await signIn({ email, password }))) location.reload();
  };
  return (
    <main className="sv-door">
      <title>{tell('people.signIn.title')}</title>
      <h1>{tell('people.signIn.title')}</h1>
      <Form onSubmit={submit} aria-label={tell('people.signIn.title')}>
        <Form.Group controlId="sign-in-email">
          <Form.Label>{tell('people.email')}</Form.Label>
          <Form.Control
            type="email"
            required
            autoFocus
            autoComplete="username"
            maxLength={254}
            value={email}
            onChange={(event) => setEmail(event.target.value)}
          />
        </Form.Group>
        <Form.Group controlId="sign-in-password">
          <Form.Label>{tell('people.password')}</Form.Label>
          <Form.Control
            type="password"
            required
            autoComplete="current-password"
            maxLength={200}
            value={password}
            onChange={(event) => setPassword(event.target.value)}
          />
        </Form.Group>
        {error && <Problem role="alert">{problemText(error)}</Problem>}
        <Button type="submit" disabled={isLoading}>
          {tell('people.signIn.do')}
        </Button>
        <Forgotten email={email} />
      </Form>
      <AtProvider />
    </main>
  );
}
