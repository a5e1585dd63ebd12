import type { GroupView, PersonView } from '@sorvik/core/board/api-types';
import { type FormEvent, useState } from 'react';
import { Button, Form } from 'react-bootstrap';
import { problemText } from '../app/api';
import {
  useGroupsQuery,
  useMakeGroupMutation,
  useRemoveGroupMutation,
  useSetGroupMutation,
} from '../app/people-api';
import { Problem } from '../ui/Problem';
import { tell } from '../ui/tell';

function Group({ group, people }: { group: GroupView; people: readonly PersonView[] }) {
  const [set, setting] = useSetGroupMutation();
  const [remove, removing] = useRemoveGroupMutation();
  const [asked, setAsked] = useState(false);
  const { id, name } = group;
  const inside = people.filter((person) => group.people.includes(person.id));
  const others = people.filter((person) => !person.off && !group.people.includes(person.id));
  const error = setting.error ?? removing.error;
  return (
    <li data-group={name}>
      <div className="sv-section-head">
        <h3>{name}</h3>
        {asked ? (
          <span className="sv-row">
            <Button size="sm" variant="outline-secondary" onClick={() => remove(id)}>
              {tell('people.groups.reallyRemove')}
            </Button>
            <button type="button" className="btn btn-sm btn-quiet" onClick={() => setAsked(false)}>
              {tell('people.groups.keep')}
            </button>
          </span>
        ) : (
          <button
            type="button"
            className="btn btn-sm btn-quiet"
            aria-label={tell('people.groups.removeOf', { name })}
            onClick={() => setAsked(true)}
          >
            {tell('people.groups.remove')}
          </button>
        )}
      </div>
      <div className="sv-row">
        {inside.map((person) => (
          <span key={person.id} className="sv-member">
            {person.name}
            <button
              type="button"
              className="btn btn-sm btn-quiet"
              aria-label={tell('people.groups.out', { name: person.name, group: name })}
              onClick={() => set({ id, people: group.people.filter((each) => each !== person.id) })}
            >
              ×
            </button>
          </span>
        ))}
        {others.length > 0 && (
          <Form.Select
            size="sm"
            className="sv-member-choice"
            aria-label={tell('people.groups.addTo', { name })}
            value=""
            onChange={(event) => set({ id, people: [...group.people, event.target.value] })}
          >
            <option value="">{tell('people.groups.add')}</option>
            {others.map((person) => (
              <option key={person.id} value={person.id}>
                {tell('people.share.person', { name: person.name, email: person.email })}
              </option>
            ))}
          </Form.Select>
        )}
      </div>
      {error && <Problem role="alert">{problemText(error)}</Problem>}
    </li>
  );
}

/** People who are given rights together. */
export function Groups({ people }: { people: readonly PersonView[] }) {
  const { data: groups = [], error } = useGroupsQuery(undefined, { refetchOnMountOrArgChange: true });
  const [make, making] = useMakeGroupMutation();
  const [name, setName] = useState('');
  const failure = error ?? making.error;
  const submit = async (event: FormEvent) => {
    event.preventDefault();
    const made = await make(name);
    if ('data' in made) setName('');
  };
  return (
    <section aria-label={tell('people.groups.title')}>
      <h2>{tell('people.groups.title')}</h2>
      <p className="sv-hint">{tell('people.groups.hint')}</p>
      <ul className="sv-groups">
        {groups.map((group) => (
          <Group key={group.id} group={group} people={people} />
        ))}
      </ul>
      {failure && <Problem role="alert">{problemText(failure)}</Problem>}
      <Form className="sv-row" onSubmit={submit}>
        <Form.Control
          size="sm"
          required
          maxLength={100}
          className="sv-dataset-name"
          aria-label={tell('people.groups.name')}
          placeholder={tell('people.groups.name')}
          value={name}
          onChange={(event) => setName(event.target.value)}
        />
        <Button size="sm" type="submit" variant="outline-secondary" disabled={making.isLoading}>
          {tell('people.groups.make')}
        </Button>
      </Form>
    </section>
  );
}
