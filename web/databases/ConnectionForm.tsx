import type { ConnectionView } from '@sorvik/core/board/api-types';
import { type FormEvent, type ReactNode, useState } from 'react';
import { Button, Form } from 'react-bootstrap';
import { problemText } from '../app/api';
import {
  type ConnectionGiven,
  useAddConnectionMutation,
  useChangeConnectionMutation,
} from '../app/editing-api';
import { Problem } from '../ui/Problem';
import { tell } from '../ui/tell';

const fresh: ConnectionGiven = {
  name: '',
  host: '',
  port: 5432,
  database: '',
  user: '',
  tls: 'usual',
  authority: null,
  seconds: 30,
  most: 4,
};

/** What a form can say of a connection, without what the server knows of it. */
const givenOf = ({ id, datasets, ...given }: ConnectionView): ConnectionGiven => given;

function Labelled({
  id,
  label,
  hint,
  children,
}: {
  id: string;
  label: string;
  hint?: string;
  children: ReactNode;
}) {
  return (
    <Form.Group controlId={`connection-${id}`} data-part={`connection-${id}`}>
      <Form.Label>{label}</Form.Label>
      {children}
      {hint && <Form.Text>{hint}</Form.Text>}
    </Form.Group>
  );
}

interface Props {
  /** The connection that is changed; left out, a new one is made. */
  connection?: ConnectionView | undefined;
  /** Left out where there is nothing to go back to. */
  onClose?: (() => void) | undefined;
}

/** How another database is reached. It is tried out before anything is kept. */
export function ConnectionForm({ connection, onClose }: Props) {
  const [given, setGiven] = useState(connection ? givenOf(connection) : fresh);
  const [add, adding] = useAddConnectionMutation();
  const [change, changing] = useChangeConnectionMutation();
  const busy = adding.isLoading || changing.isLoading;
  const error = adding.error ?? changing.error;
  const set = <K extends keyof ConnectionGiven>(key: K, value: ConnectionGiven[K]) =>
    setGiven((before) => ({ ...before, [key]: value }));
  const text = (key: 'name' | 'host' | 'database' | 'user', more: object = {}) => (
    <Form.Control
      size="sm"
      required
      maxLength={200}
      value={given[key]}
      onChange={(event) => set(key, event.target.value)}
      autoComplete="off"
      spellCheck={false}
      {...more}
    />
  );
  const number = (key: 'port' | 'seconds' | 'most', min: number, max: number) => (
    <Form.Control
      size="sm"
      required
      type="number"
      min={min}
      max={max}
      value={given[key] || ''}
      onChange={(event) => set(key, Number(event.target.value))}
    />
  );
  const submit = async (event: FormEvent) => {
    event.preventDefault();
    if (busy) return;
    const asked = { ...given, host: given.host.trim() };
    const result = connection ? await change({ ...asked, id: connection.id }) : await add(asked);
    if ('data' in result) onClose?.();
  };
  const protections = {
    usual: [tell('databases.form.tlsUsual'), tell('databases.form.tlsUsualHint')],
    own: [tell('databases.form.tlsOwn'), tell('databases.form.tlsOwnHint')],
    off: [tell('databases.form.tlsOff'), tell('databases.form.tlsOffHint')],
  } as const;
  return (
    <Form className="sv-connection-form" onSubmit={submit} aria-label={tell('databases.form.label')}>
      <div className="sv-connection-grid">
        <Labelled id="name" label={tell('databases.form.name')}>
          {text('name', { autoFocus: true, placeholder: tell('databases.form.nameExample') })}
        </Labelled>
        <Labelled id="host" label={tell('databases.form.host')}>
          {text('host')}
        </Labelled>
        <Labelled id="port" label={tell('databases.form.port')}>
          {number('port', 1, 65_535)}
        </Labelled>
        <Labelled id="database" label={tell('databases.form.database')}>
          {text('database')}
        </Labelled>
        <Labelled id="user" label={tell('databases.form.user')} hint={tell('databases.form.userHint')}>
          {text('user')}
        </Labelled>
        <Labelled
          id="password"
          label={tell('databases.form.password')}
          hint={connection ? tell('databases.form.passwordKept') : tell('databases.form.passwordHint')}
        >
          <Form.Control
            size="sm"
            type="password"
            autoComplete="new-password"
            maxLength={1000}
            value={given.password ?? ''}
            onChange={(event) =>
              setGiven(({ password: _, ...rest }) =>
                event.target.value ? { ...rest, password: event.target.value } : rest,
              )
            }
          />
        </Labelled>
        <Labelled id="tls" label={tell('databases.form.tls')} hint={protections[given.tls][1]}>
          <Form.Select
            size="sm"
            value={given.tls}
            onChange={(event) => set('tls', event.target.value as ConnectionGiven['tls'])}
          >
            {Object.entries(protections).map(([tls, [label]]) => (
              <option key={tls} value={tls}>
                {label}
              </option>
            ))}
          </Form.Select>
        </Labelled>
        <Labelled
          id="seconds"
          label={tell('databases.form.seconds')}
          hint={tell('databases.form.secondsHint')}
        >
          {number('seconds', 1, 600)}
        </Labelled>
        <Labelled id="most" label={tell('databases.form.most')} hint={tell('databases.form.mostHint')}>
          {number('most', 1, 50)}
        </Labelled>
      </div>
      {given.tls === 'own' && (
        <Labelled id="authority" label={tell('databases.form.authority')}>
          <Form.Control
            as="textarea"
            size="sm"
            rows={4}
            required
            spellCheck={false}
            placeholder={tell('databases.form.authorityExample')}
            value={given.authority ?? ''}
            onChange={(event) => set('authority', event.target.value || null)}
          />
        </Labelled>
      )}
      {error && <Problem role="alert">{problemText(error)}</Problem>}
      <div className="sv-row">
        <Button size="sm" type="submit" disabled={busy}>
          {busy
            ? tell('databases.form.trying')
            : connection
              ? tell('databases.form.save')
              : tell('databases.form.connect')}
        </Button>
        {onClose && (
          <Button size="sm" variant="outline-secondary" onClick={onClose}>
            {tell('databases.form.cancel')}
          </Button>
        )}
      </div>
    </Form>
  );
}
