import { type FormEvent, useState } from 'react';
import { Button, Form } from 'react-bootstrap';
import { problemText } from '../app/api';
import {
  useMakePersonTokenMutation,
  usePersonTokensQuery,
  useWithdrawPersonTokenMutation,
} from '../app/people-api';
import { Problem } from '../ui/Problem';
import { tell } from '../ui/tell';
import { dayText } from '../ui/time-text';
import { CopyText } from './CopyText';

const scopes = ['read', 'push', 'edit'] as const;
const lengths = [7, 30, 90, 366] as const;

/** Tokens by which programs act for whoever is signed in. */
export function Tokens() {
  const { data: tokens = [] } = usePersonTokensQuery();
  const [make, making] = useMakePersonTokenMutation();
  const [withdraw] = useWithdrawPersonTokenMutation();
  const [given, setGiven] = useState<{ name: string; scope: (typeof scopes)[number]; days: number }>({
    name: '',
    scope: 'read',
    days: 90,
  });
  const submit = async (event: FormEvent) => {
    event.preventDefault();
    if ('data' in (await make(given))) setGiven((before) => ({ ...before, name: '' }));
  };
  return (
    <>
      <p className="sv-hint">{tell('people.tokens.hint')}</p>
      <ul className="sv-sessions">
        {tokens.map(({ id, name, scope, endsAt, usedAt }) => (
          <li key={id}>
            <span>
              {name}
              <span className="sv-hint">
                {' '}
                {tell('people.tokens.about', {
                  scope,
                  until: dayText(endsAt),
                  used: usedAt ? 'yes' : 'no',
                  last: usedAt ? dayText(usedAt) : '',
                })}
              </span>
            </span>
            <button
              type="button"
              className="btn btn-sm btn-quiet"
              aria-label={tell('people.tokens.withdrawOf', { name })}
              onClick={() => withdraw(id)}
            >
              {tell('people.links.withdraw')}
            </button>
          </li>
        ))}
      </ul>
      {making.data && (
        <div className="sv-new-link" role="status">
          <CopyText
            label={tell('people.tokens.tokenOf', { name: making.data.name })}
            text={making.data.token}
          />
          <p className="sv-hint">{tell('people.tokens.once')}</p>
        </div>
      )}
      {making.error && <Problem role="alert">{problemText(making.error)}</Problem>}
      <Form onSubmit={submit} aria-label={tell('people.tokens.make')}>
        <Form.Control
          size="sm"
          required
          maxLength={100}
          aria-label={tell('people.tokens.name')}
          placeholder={tell('people.tokens.name')}
          value={given.name}
          onChange={(event) => setGiven({ ...given, name: event.target.value })}
        />
        <div className="sv-row">
          <Form.Select
            size="sm"
            className="sv-member-choice"
            aria-label={tell('people.tokens.scopeLabel')}
            value={given.scope}
            onChange={(event) => setGiven({ ...given, scope: event.target.value as typeof given.scope })}
          >
            {scopes.map((scope) => (
              <option key={scope} value={scope}>
                {tell('people.tokens.scope', { scope })}
              </option>
            ))}
          </Form.Select>
          <Form.Select
            size="sm"
            className="sv-member-choice"
            aria-label={tell('people.tokens.daysLabel')}
            value={given.days}
            onChange={(event) => setGiven({ ...given, days: Number(event.target.value) })}
          >
            {lengths.map((days) => (
              <option key={days} value={days}>
                {tell('people.tokens.days', { days })}
              </option>
            ))}
          </Form.Select>
          <Button size="sm" type="submit" variant="outline-secondary" disabled={making.isLoading}>
            {tell('people.tokens.make')}
          </Button>
        </div>
      </Form>
    </>
  );
}
