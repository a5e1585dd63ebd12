import type { Person, WhoMay } from '@sorvik/core/board/api-types';
import { Link } from 'react-router';
import { useWhoQuery } from '../app/people-api';
import { tell } from '../ui/tell';
import { listed } from './listed';

interface Thing {
  kind: 'board' | 'dataset';
  id: string;
}

/** So many names stand in a sentence; the others are counted. */
const named = 5;

/** So many people are listed. */
const most = 200;

const names = (people: readonly Person[]): string =>
  listed([
    ...people.slice(0, named).map(({ name }) => name),
    ...(people.length > named ? [tell('people.who.others', { n: people.length - named })] : []),
  ]);

/** Lesser rights that somebody has besides say nothing more. */
const why = ({ by, role }: WhoMay): string =>
  listed(
    by
      .filter((each) => each.is === 'owner' || each.role === role)
      .map((each) => {
        if (each.is === 'owner') return tell('people.who.owner');
        if (each.is === 'everybody') return tell('people.who.everybody');
        return each.is === 'group'
          ? tell('people.who.group', { name: each.name })
          : tell('people.who.person');
      }),
  );

/** Which people come by something and why, and who of them does not see the figures that it is made of. */
export function Who({ kind, id }: Thing) {
  const { data: who } = useWhoQuery({ kind, id }, { refetchOnMountOrArgChange: true });
  if (!who) return null;
  return (
    <>
      {who.data.map(({ dataset, title, blind, partly }) => (
        <div key={dataset} className="sv-blind" role="note">
          {blind.length > 0 && (
            <p>{tell('people.who.blind', { names: names(blind), n: blind.length, title })}</p>
          )}
          {partly.length > 0 && (
            <p>{tell('people.who.partly', { names: names(partly), n: partly.length, title })}</p>
          )}
          <Link to={`/datasets/${dataset}`}>{tell('people.who.dataset', { title })}</Link>
        </div>
      ))}
      <details>
        <summary>{tell('people.who.title', { n: who.people.length })}</summary>
        <ul>
          {who.people.slice(0, most).map((person) => (
            <li key={person.id} title={person.email}>
              <span>{person.name}</span>
              <small>
                {tell('people.who.line', {
                  role: tell('people.share.role', { role: person.role, kind }),
                  why: why(person),
                })}
              </small>
            </li>
          ))}
          {who.people.length > most && <li>{tell('people.who.others', { n: who.people.length - most })}</li>}
        </ul>
      </details>
    </>
  );
}
