import type { BoardLink } from '@sorvik/core/board/api-types';
import type { Lever } from '@sorvik/core/levers/registry';
import { type FormEvent, useState } from 'react';
import { Button, Form } from 'react-bootstrap';
import { problemText } from '../app/api';
import { useLinksQuery, useMakeLinkMutation, useWithdrawLinkMutation } from '../app/people-api';
import { Problem } from '../ui/Problem';
import { tell } from '../ui/tell';
import { dayText, momentText } from '../ui/time-text';
import { CopyText } from './CopyText';

/** What a board's links can begin with: where its levers stand now, and which there are. */
export interface LinkStart {
  positions: string;
  levers: readonly Lever[];
}

const ends = ['1', '7', '30', '365', ''] as const;

function Known({ board, link }: { board: string; link: BoardLink }) {
  const [withdraw, { error }] = useWithdrawLinkMutation();
  const over = link.endsAt !== null && Date.parse(link.endsAt) < Date.now();
  return (
    <li data-link={link.name}>
      <span>
        {link.name}
        <span className="sv-hint">
          {tell('people.links.about', {
            uses: link.uses,
            last: link.usedAt ? dayText(link.usedAt) : '',
            used: link.usedAt ? 'yes' : 'no',
            until: link.endsAt ? momentText(link.endsAt) : '',
            ends: over ? 'over' : link.endsAt ? 'yes' : 'no',
            locked: link.locked ? 'yes' : 'no',
            pages: link.origins.join(', '),
            paged: link.origins.length ? 'yes' : 'no',
          })}
        </span>
        {error && <Problem role="alert">{problemText(error)}</Problem>}
      </span>
      <Button
        size="sm"
        variant="quiet"
        aria-label={tell('people.links.withdrawOf', { name: link.name })}
        onClick={() => withdraw({ board, link: link.id })}
      >
        {tell('people.links.withdraw')}
      </Button>
    </li>
  );
}

function NewOne({ board, start, onDone }: { board: string; start: LinkStart | undefined; onDone(): void }) {
  const [given, setGiven] = useState({ name: '', days: '30', password: '', pages: '', here: false });
  const [fixed, setFixed] = useState<readonly string[]>([]);
  const [make, { error, isLoading }] = useMakeLinkMutation();
  const [path, setPath] = useState<string>();
  const set = (change: Partial<typeof given>) => setGiven((before) => ({ ...before, ...change }));
  const submit = async (event: FormEvent) => {
    event.preventDefault();
    const { name, days, password, pages, here } = given;
    const origins = pages.split(/[\s,]+/).filter(Boolean);
    const made = await make({
      board,
      name,
      days: days ? Number(days) : null,
      ...(password ? { password } : {}),
      ...(origins.length ? { origins } : {}),
      ...(here && start ? { positions: start.positions, fixed: [...fixed] } : {}),
    });
    if ('data' in made) setPath(made.data!.path);
  };
  if (path)
    return (
      <div data-part="new-link">
        <CopyText
          label={tell('people.links.linkOf', { name: given.name })}
          text={new URL(path, location.href).href}
        />
        {given.pages.trim() && (
          <>
            <p className="sv-hint">{tell('people.links.inPages')}</p>
            <CopyText
              label={tell('people.links.embedOf', { name: given.name })}
              text={new URL(`/show/${board}?link=${path.split('#')[1]}#`, location.href).href}
            />
          </>
        )}
        <p className="sv-hint">{tell('people.links.once')}</p>
        <Button size="sm" variant="outline-secondary" onClick={onDone}>
          {tell('people.links.done')}
        </Button>
      </div>
    );
  const shown = start?.levers.filter(({ hidden }) => !hidden) ?? [];
  return (
    <Form onSubmit={submit} aria-label={tell('people.links.new')}>
      <Form.Group controlId="link-name">
        <Form.Label>{tell('people.links.name')}</Form.Label>
        <Form.Control
          size="sm"
          required
          autoFocus
          maxLength={100}
          value={given.name}
          onChange={(event) => set({ name: event.target.value })}
        />
      </Form.Group>
      <Form.Group controlId="link-days">
        <Form.Label>{tell('people.links.until')}</Form.Label>
        <Form.Select size="sm" value={given.days} onChange={(event) => set({ days: event.target.value })}>
          {ends.map((days) => (
            <option key={days} value={days}>
              {tell('people.links.days', { days: Number(days) })}
            </option>
          ))}
        </Form.Select>
      </Form.Group>
      <Form.Group controlId="link-password">
        <Form.Label>{tell('people.links.password')}</Form.Label>
        <Form.Control
          size="sm"
          type="text"
          autoComplete="off"
          minLength={6}
          maxLength={200}
          value={given.password}
          onChange={(event) => set({ password: event.target.value })}
        />
      </Form.Group>
      <Form.Group controlId="link-pages">
        <Form.Label>{tell('people.links.pages')}</Form.Label>
        <Form.Control
          size="sm"
          autoComplete="off"
          placeholder="https://pages.example"
          maxLength={2000}
          value={given.pages}
          onChange={(event) => set({ pages: event.target.value })}
        />
        <Form.Text>{tell('people.links.pagesHint')}</Form.Text>
      </Form.Group>
      {start && shown.length > 0 && (
        <Form.Check
          id="link-here"
          label={tell('people.links.here')}
          checked={given.here}
          onChange={(event) => set({ here: event.target.checked })}
        />
      )}
      {given.here && (
        <fieldset className="sv-fixed">
          <legend>{tell('people.links.fixed')}</legend>
          {shown.map(({ id, name }) => (
            <Form.Check
              key={id}
              id={`link-fixed-${id}`}
              label={name}
              checked={fixed.includes(id)}
              onChange={(event) =>
                setFixed((list) =>
                  event.target.checked ? [...list, id] : list.filter((each) => each !== id),
                )
              }
            />
          ))}
          <p className="sv-hint">{tell('people.links.fixedHint')}</p>
        </fieldset>
      )}
      {error && <Problem role="alert">{problemText(error)}</Problem>}
      <div className="sv-row">
        <Button size="sm" type="submit" disabled={isLoading}>
          {tell('people.links.make')}
        </Button>
        <Button size="sm" variant="quiet" onClick={onDone}>
          {tell('people.links.cancel')}
        </Button>
      </div>
    </Form>
  );
}

/** The links by which whoever has them sees a board, and how another is made. */
export function Links({ board, start }: { board: string; start: LinkStart | undefined }) {
  const { data: links = [], error } = useLinksQuery(board, { refetchOnMountOrArgChange: true });
  const [making, setMaking] = useState(false);
  return (
    <section aria-label={tell('people.links.title')}>
      <h2>{tell('people.links.title')}</h2>
      <p className="sv-hint">{tell('people.links.hint')}</p>
      {error && <Problem>{problemText(error)}</Problem>}
      <ul>
        {links.map((link) => (
          <Known key={link.id} board={board} link={link} />
        ))}
      </ul>
      {making ? (
        <NewOne board={board} start={start} onDone={() => setMaking(false)} />
      ) : (
        <Button size="sm" variant="outline-secondary" onClick={() => setMaking(true)}>
          {tell('people.links.new')}
        </Button>
      )}
    </section>
  );
}
