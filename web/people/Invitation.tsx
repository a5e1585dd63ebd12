import { type FormEvent, useState } from 'react';
import { Button, Form } from 'react-bootstrap';
import { problemText } from '../app/api';
import { useInvitationQuery, useTakeInvitationMutation } from '../app/people-api';
import { Problem } from '../ui/Problem';
import { tell } from '../ui/tell';

/** Where an invitation leads: somebody new says who they are, somebody known chooses another password. */
export function Invitation() {
  // Behind the sign, so that it is in no log of any server.
  const token = location.hash.slice(1);
  const { data: invitation, error } = useInvitationQuery(token);
  const [given, setGiven] = useState({ email: '', name: '', password: '' });
  const [take, taking] = useTakeInvitationMutation();
  const submit = async (event: FormEvent) => {
    event.preventDefault();
    const { email, name, password } = given;
    const asked = invitation?.known ? { token, password } : { token, email, name, password };
    if ('data' in (await take(asked))) location.replace('/');
  };
  const field = (key: keyof typeof given, label: string, more: object) => (
    <Form.Group controlId={`invitation-${key}`}>
      <Form.Label>{label}</Form.Label>
      <Form.Control
        required
        value={given[key]}
        onChange={(event) => setGiven((before) => ({ ...before, [key]: event.target.value }))}
        {...more}
      />
      {key === 'password' && <Form.Text>{tell('people.passwordHint')}</Form.Text>}
    </Form.Group>
  );
  if (error)
    return (
      <main className="sv-door">
        <h1>{tell('people.invitation.over')}</h1>
        <Problem>{problemText(error)}</Problem>
      </main>
    );
  if (!invitation) return <p className="sv-loading">{tell('home.home.loading')}</p>;
  const title = invitation.known
    ? tell('people.invitation.hello', { name: invitation.name })
    : tell('people.invitation.title');
  return (
    <main className="sv-door">
      <title>{title}</title>
      <h1>{title}</h1>
      <p>
        {invitation.known
          ? tell('people.invitation.reset')
          : invitation.owner
            ? tell('people.invitation.owner')
            : tell('people.invitation.join')}
      </p>
      <Form onSubmit={submit} aria-label={title}>
        {!invitation.known &&
          field('name', tell('people.name'), { autoFocus: true, maxLength: 100, autoComplete: 'name' })}
        {!invitation.known &&
          field('email', tell('people.email'), { type: 'email', maxLength: 254, autoComplete: 'username' })}
        {field('password', tell('people.newPassword'), {
          type: 'password',
          minLength: 10,
          maxLength: 200,
          autoComplete: 'new-password',
          autoFocus: invitation.known,
        })}
        {taking.error && <Problem role="alert">{problemText(taking.error)}</Problem>}
        <Button type="submit" disabled={taking.isLoading}>
          {tell('people.invitation.do')}
        </Button>
      </Form>
    </main>
  );
}
