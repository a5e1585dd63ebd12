import { skipToken } from '@reduxjs/toolkit/query/react';
import type { LinkView, PersonView } from '@sorvik/core/board/api-types';
import { useState } from 'react';
import { Button, Form, Table } from 'react-bootstrap';
import { problemText } from '../app/api';
import {
  useAuditQuery,
  useChangePersonMutation,
  useGroupsQuery,
  useInviteMutation,
  useMeQuery,
  usePeopleQuery,
  useResetPasswordMutation,
} from '../app/people-api';
import { Problem } from '../ui/Problem';
import { TopBar } from '../ui/TopBar';
import { tell } from '../ui/tell';
import { momentText } from '../ui/time-text';
import { Groups } from './Groups';
import { NewLink } from './NewLink';

function Person({ person, me }: { person: PersonView; me: boolean }) {
  const [change, changing] = useChangePersonMutation();
  const [reset, { data: link, ...resetting }] = useResetPasswordMutation();
  const { id, name, email, owner, off } = person;
  const error = changing.error ?? resetting.error;
  return (
    <>
      <tr data-person={email}>
        <td>
          {name}
          {me && <span className="sv-hint"> {tell('people.page.you')}</span>}
          <div className="sv-hint">{email}</div>
        </td>
        <td>{off ? tell('people.page.off') : owner && tell('people.page.owner')}</td>
        <td className="text-end">
          <button
            type="button"
            className="btn btn-sm btn-quiet"
            aria-label={tell('people.page.resetOf', { name })}
            onClick={() => reset(id)}
          >
            {tell('people.page.reset')}
          </button>
          <button
            type="button"
            className="btn btn-sm btn-quiet"
            aria-label={tell(owner ? 'people.page.noOwnerOf' : 'people.page.makeOwnerOf', { name })}
            onClick={() => change({ id, owner: !owner })}
          >
            {owner ? tell('people.page.noOwner') : tell('people.page.makeOwner')}
          </button>
          <button
            type="button"
            className="btn btn-sm btn-quiet"
            aria-label={tell(off ? 'people.page.switchOnOf' : 'people.page.switchOffOf', { name })}
            onClick={() => change({ id, off: !off })}
          >
            {off ? tell('people.page.switchOn') : tell('people.page.switchOff')}
          </button>
        </td>
      </tr>
      {(link || error) && (
        <tr>
          <td colSpan={3}>
            {link && <NewLink link={link} label={tell('people.page.linkFor', { name })} />}
            {error && <Problem role="alert">{problemText(error)}</Problem>}
          </td>
        </tr>
      )}
    </>
  );
}

function Invite() {
  const [owner, setOwner] = useState(false);
  const [links, setLinks] = useState<LinkView[]>([]);
  const [invite, { error }] = useInviteMutation();
  return (
    <section aria-label={tell('people.page.invite')}>
      <h2>{tell('people.page.invite')}</h2>
      <p className="sv-hint">{tell('people.page.inviteHint')}</p>
      <Form.Check
        id="invite-owner"
        label={tell('people.page.asOwner')}
        checked={owner}
        onChange={(event) => setOwner(event.target.checked)}
      />
      <Button
        size="sm"
        onClick={async () => {
          const made = await invite({ owner });
          if (made.data) setLinks((list) => [made.data!, ...list]);
        }}
      >
        {tell('people.page.makeLink')}
      </Button>
      {error && <Problem role="alert">{problemText(error)}</Problem>}
      {links.map((link) => (
        <NewLink key={link.path} link={link} label={tell('people.page.invitationLink')} />
      ))}
    </section>
  );
}

function Trail() {
  const [text, setText] = useState('');
  const [before, setBefore] = useState<number>();
  const { data: entries, error } = useAuditQuery({ text, ...(before === undefined ? {} : { before }) });
  return (
    <section aria-label={tell('people.trail.title')}>
      <h2>{tell('people.trail.title')}</h2>
      <div className="sv-row">
        <Form.Control
          size="sm"
          type="search"
          className="sv-table-search"
          maxLength={200}
          aria-label={tell('people.trail.search')}
          placeholder={tell('people.trail.search')}
          value={text}
          onChange={(event) => {
            setText(event.target.value);
            setBefore(undefined);
          }}
        />
        <a className="btn btn-sm btn-quiet" href="/api/audit.ndjson" download>
          {tell('people.trail.file')}
        </a>
      </div>
      {error && <Problem>{problemText(error)}</Problem>}
      {entries?.length === 0 && <p>{tell('people.trail.none')}</p>}
      {entries && entries.length > 0 && (
        <Table size="sm" className="sv-trail">
          <thead>
            <tr>
              <th>{tell('people.trail.when')}</th>
              <th>{tell('people.trail.who')}</th>
              <th>{tell('people.trail.what')}</th>
              <th className="sv-where-wide">{tell('people.trail.from')}</th>
            </tr>
          </thead>
          <tbody>
            {entries.map(({ id, at, name, action, thing, detail, address }) => (
              <tr key={id}>
                <td>{momentText(at)}</td>
                <td>{name ?? '–'}</td>
                <td>
                  {tell('people.trail.action', { action: action.replaceAll('-', '_') })}
                  {thing && <> · {thing}</>}
                  {Object.keys(detail).length > 0 && (
                    <div className="sv-hint">
                      {Object.entries(detail)
                        .map(
                          ([key, value]) =>
                            `${key}: ${Array.isArray(value) ? value.join(' + ') : (value ?? '–')}`,
                        )
                        .join(', ')}
                    </div>
                  )}
                </td>
                <td className="sv-where-wide">{address}</td>
              </tr>
            ))}
          </tbody>
        </Table>
      )}
      {entries?.length === 100 && (
        <Button size="sm" variant="outline-secondary" onClick={() => setBefore(entries.at(-1)!.id)}>
          {tell('people.trail.older')}
        </Button>
      )}
    </section>
  );
}

/** For owners: who comes in, and what was done. */
export function People() {
  const { data: me } = useMeQuery();
  const { data: people, error } = usePeopleQuery(undefined, { refetchOnMountOrArgChange: true });
  const owner = me?.person?.owner === true;
  // What stands below a list is there once that is: it would move away from under the pointer.
  const { data: groups, isError } = useGroupsQuery(owner ? undefined : skipToken, {
    refetchOnMountOrArgChange: true,
  });
  return (
    <>
      <title>{tell('people.page.title')}</title>
      <TopBar place={tell('people.page.title')} />
      <main className="sv-page">
        <h1>{tell('people.page.title')}</h1>
        {error && <Problem>{problemText(error)}</Problem>}
        {people && (
          <Table className="sv-people">
            <tbody>
              {people.map((person) => (
                <Person key={person.id} person={person} me={person.id === me?.person?.id} />
              ))}
            </tbody>
          </Table>
        )}
        {owner && people && (groups || isError) && (
          <>
            <Groups people={people} />
            <Invite />
            <Trail />
          </>
        )}
      </main>
    </>
  );
}
