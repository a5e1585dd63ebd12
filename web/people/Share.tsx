import type { RightView } from '@sorvik/core/board/api-types';
import { useState } from 'react';
import { Button, Form } from 'react-bootstrap';
import { problemText } from '../app/api';
import {
  useChangeRightMutation,
  useGroupsQuery,
  useMeQuery,
  usePeopleQuery,
  useRightsQuery,
} from '../app/people-api';
import { DropButton } from '../ui/DropButton';
import { Problem } from '../ui/Problem';
import { tell } from '../ui/tell';
import { type LinkStart, Links } from './Links';
import { Who } from './Who';

interface Thing {
  kind: 'board' | 'dataset';
  id: string;
}

const roles = ['view', 'edit', 'own'] as const;
const everybody = 'everybody';

function RoleChoice({
  role,
  label,
  kind,
  all,
  onChoose,
}: {
  role: RightView['role'];
  label: string;
  kind: Thing['kind'];
  all: boolean;
  onChoose(role: RightView['role'] | null): void;
}) {
  return (
    <Form.Select
      size="sm"
      aria-label={label}
      value={role}
      onChange={(event) => onChoose((event.target.value || null) as RightView['role'] | null)}
    >
      {roles
        .filter((each) => each !== 'own' || !all)
        .map((each) => (
          <option key={each} value={each}>
            {tell('people.share.role', { role: each, kind })}
          </option>
        ))}
      <option value="">{tell('people.share.nothing')}</option>
    </Form.Select>
  );
}

function Rights({ kind, id }: Thing) {
  const { data: rights, error } = useRightsQuery({ kind, id }, { refetchOnMountOrArgChange: true });
  const { data: people = [] } = usePeopleQuery();
  const { data: groups = [] } = useGroupsQuery();
  const { data: me } = useMeQuery();
  const [change, { error: failure }] = useChangeRightMutation();
  const [chosen, setChosen] = useState('');
  if (error) return <Problem>{problemText(error)}</Problem>;
  if (!rights) return <p className="sv-loading">{tell('home.home.loading')}</p>;
  const nameOf = ({ grantee, name, email }: RightView) => {
    if (grantee === everybody) return tell('people.share.everybody');
    const group = groups.find(({ id: its }) => grantee === `group/${its}`);
    return group
      ? tell('people.share.group', { name: group.name, n: group.people.length })
      : (name ?? email ?? grantee);
  };
  const others = people.filter(
    ({ id: person, off }) => !off && !rights.some(({ grantee }) => grantee === person),
  );
  return (
    <>
      <p className="sv-hint">{tell('people.share.owners', { kind })}</p>
      <ul>
        {rights.map((right) => (
          <li key={right.grantee}>
            <span>
              {nameOf(right)}
              {right.grantee === me?.person?.id && (
                <span className="sv-hint"> {tell('people.page.you')}</span>
              )}
            </span>
            <RoleChoice
              role={right.role}
              kind={kind}
              all={right.grantee === everybody}
              label={tell('people.share.roleOf', { name: nameOf(right) })}
              onChoose={(role) => change({ kind, id, grantee: right.grantee, role })}
            />
          </li>
        ))}
      </ul>
      {rights.length === 0 && <p>{tell('people.share.nobody')}</p>}
      <div className="sv-row">
        <Form.Select
          size="sm"
          aria-label={tell('people.share.with')}
          value={chosen}
          onChange={(event) => setChosen(event.target.value)}
        >
          <option value="">{tell('people.share.choose')}</option>
          {!rights.some(({ grantee }) => grantee === everybody) && (
            <option value={everybody}>{tell('people.share.everybody')}</option>
          )}
          {groups
            .filter((group) => !rights.some(({ grantee }) => grantee === `group/${group.id}`))
            .map((group) => (
              <option key={group.id} value={`group/${group.id}`}>
                {tell('people.share.group', { name: group.name, n: group.people.length })}
              </option>
            ))}
          {others.map(({ id: person, name, email }) => (
            <option key={person} value={person}>
              {tell('people.share.person', { name, email })}
            </option>
          ))}
        </Form.Select>
        <Button
          size="sm"
          disabled={!chosen}
          onClick={() => {
            void change({ kind, id, grantee: chosen, role: 'view' });
            setChosen('');
          }}
        >
          {tell('people.share.add')}
        </Button>
      </div>
      {kind === 'board' && <p className="sv-hint">{tell('people.share.data')}</p>}
      {failure && <Problem role="alert">{problemText(failure)}</Problem>}
    </>
  );
}

/** Who may do what with a board or a dataset; nothing where nobody signs in. */
export function ShareButton({
  links,
  of,
  ...thing
}: Thing & {
  links?: () => LinkStart /** What it is called, where there are several such buttons. */;
  of?: string;
}) {
  const { data: me } = useMeQuery();
  if (!me?.person) return null;
  return (
    <DropButton
      label={tell('people.share.label')}
      {...(of === undefined ? {} : { name: tell('people.share.of', { of }) })}
      title={tell('people.share.title')}
      placement="bottom-end"
    >
      {() => (
        <div className="sv-share">
          <Rights {...thing} />
          <Who {...thing} />
          {thing.kind === 'board' && <Links board={thing.id} start={links?.()} />}
        </div>
      )}
    </DropButton>
  );
}
