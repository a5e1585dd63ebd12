import { type FormEvent, useState } from 'react';
import { Button, Form } from 'react-bootstrap';
import { problemText } from '../app/api';
import { useMakeTokenMutation, usePushTokensQuery, useRemoveTokenMutation } from '../app/editing-api';
import { Problem } from '../ui/Problem';
import { tell } from '../ui/tell';
import { dayText } from '../ui/time-text';

/** The tokens by which programs push rows, and how they do. */
export function PushTokens({ dataset }: { dataset: string }) {
  const { data: tokens = [], error } = usePushTokensQuery(dataset);
  const [make, making] = useMakeTokenMutation();
  const [remove] = useRemoveTokenMutation();
  const [name, setName] = useState('');
  const submit = async (event: FormEvent) => {
    event.preventDefault();
    const made = await make({ id: dataset, name });
    if ('data' in made) setName('');
  };
  const address = `${location.origin}/api/datasets/${dataset}/rows`;
  return (
    <>
      <p className="sv-hint">{tell('dataset.push.hint')}</p>
      {(error || making.error) && <Problem role="alert">{problemText(error ?? making.error)}</Problem>}
      <ul className="sv-tokens">
        {tokens.map((token) => (
          <li key={token.id}>
            <span>
              {tell('dataset.push.token', {
                name: token.name,
                made: dayText(token.createdAt),
                used: token.usedAt ? dayText(token.usedAt) : '',
                ever: token.usedAt ? 'yes' : 'no',
              })}
            </span>
            <Button
              size="sm"
              variant="quiet"
              aria-label={tell('dataset.push.withdrawToken', { name: token.name })}
              onClick={() => remove({ id: dataset, token: token.id })}
            >
              {tell('dataset.push.withdraw')}
            </Button>
          </li>
        ))}
      </ul>
      {making.data && (
        <div data-part="new-token" role="status">
          <p>{tell('dataset.push.once')}</p>
          <pre className="sv-code">{tell('dataset.push.command', { address, token: making.data.token })}</pre>
        </div>
      )}
      <Form onSubmit={submit} className="sv-row">
        <Form.Control
          size="sm"
          required
          maxLength={100}
          className="sv-dataset-name"
          aria-label={tell('dataset.push.nameOfToken')}
          placeholder={tell('dataset.push.whatFor')}
          value={name}
          onChange={(event) => setName(event.target.value)}
        />
        <Button size="sm" type="submit" variant="outline-secondary" disabled={making.isLoading}>
          {tell('dataset.push.make')}
        </Button>
      </Form>
    </>
  );
}
