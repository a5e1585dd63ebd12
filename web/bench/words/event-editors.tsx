import { type BoardEvent, byDate } from '@sorvik/core/board/event';
import { idFrom } from '@sorvik/core/board/id';
import { lookColours } from '@sorvik/core/board/look';
import type { SegmentCondition } from '@sorvik/core/conditions/segment';
import { stretchNames } from '@sorvik/core/conditions/segment';
import { setEvents } from '@sorvik/core/edit/set-events';
import { english } from '@sorvik/core/messages/locale';
import { colourName } from '@sorvik/core/words/colour-name';
import { dayFrom } from '@sorvik/core/words/day-from';
import { useState } from 'react';
import { Form } from 'react-bootstrap';
import { DateField } from '../../ui/DateField';
import { tell } from '../../ui/tell';
import { setWord } from './at-path';
import { EventsImport } from './EventsImport';
import type { EditorProps } from './editor-kind';

/** The events of the board: what happened, and when. They are the same for all of its charts. */
export function EventsEditor({ board, dataset, change }: EditorProps) {
  const [taking, setTaking] = useState(false);
  const events = board.events ?? [];
  const set = (next: BoardEvent[]) =>
    change((_chart, draft) => {
      setEvents(draft, next);
    });
  const edited = (at: number, part: Partial<BoardEvent>) =>
    set(events.map((event, i) => (i === at ? { ...event, ...part } : event)));
  const add = () => {
    const id = idFrom(
      'event',
      events.map((event) => event.id),
    );
    const last = byDate(events).at(-1)?.date;
    set([
      ...events,
      {
        id,
        name: tell('bench.eventEditors.newEvent', { number: events.length + 1 }),
        date: last ?? '2021-01-01',
      },
    ]);
  };
  return (
    <div className="sv-events">
      <p className="sv-editor-head">{tell('bench.eventEditors.eventsOfThisBoard')}</p>
      <div className="sv-event-list">
        {events.map((event, i) => (
          <div key={event.id} className="sv-event-row">
            <Form.Control
              size="sm"
              aria-label={tell('bench.eventEditors.nameOfEvent', { number: i + 1 })}
              maxLength={120}
              value={event.name}
              onChange={({ target }) => edited(i, { name: target.value || ' ' })}
            />
            <DateField
              label={tell('bench.eventEditors.dateOfName', { name: event.name })}
              value={event.date}
              onTake={(date) => edited(i, { date })}
            />
            <Form.Select
              size="sm"
              aria-label={tell('bench.eventEditors.colourOfName', { name: event.name })}
              title={tell('bench.eventEditors.ofItsLineAndOf')}
              value={event.colour ?? ''}
              onChange={({ target }) => {
                const { colour: _colour, ...plain } = event;
                const colour = lookColours.find((each) => each === target.value);
                set(
                  events.map((each, at) => (at === i ? { ...plain, ...(colour ? { colour } : {}) } : each)),
                );
              }}
            >
              <option value="">{tell('bench.eventEditors.noColour')}</option>
              {lookColours.map((colour) => (
                <option key={colour} value={colour}>
                  {colourName(colour, english)}
                </option>
              ))}
            </Form.Select>
            <button
              type="button"
              className="sv-take"
              aria-label={tell('bench.eventEditors.removeName', { name: event.name })}
              onClick={() => set(events.filter((_, at) => at !== i))}
            >
              ×
            </button>
          </div>
        ))}
      </div>
      {!events.length && <p className="sv-none">{tell('bench.eventEditors.noEventsYet')}</p>}
      <button type="button" className="btn btn-sm btn-quiet" onClick={add}>
        {tell('bench.eventEditors.event')}
      </button>
      <button
        type="button"
        className="btn btn-sm btn-quiet"
        aria-expanded={taking}
        onClick={() => setTaking(!taking)}
      >
        {tell('bench.eventEditors.importFromADataset')}
      </button>
      {taking && (
        <EventsImport
          listed={events}
          home={dataset.id}
          onTake={(found) => {
            set([...events, ...found]);
            setTaking(false);
          }}
        />
      )}
    </div>
  );
}

/** Which of the stretches between events are lit. */
export function StretchesEditor({ words, sentence, word, change }: EditorProps) {
  const names = stretchNames(words);
  const only = word.value as SegmentCondition['only'];
  const set = (stretch: number, lit: boolean) => {
    const all = only ?? names.map((_, i) => i);
    const next = lit ? [...all, stretch].sort((a, b) => a - b) : all.filter((each) => each !== stretch);
    change((draft) => setWord(draft, sentence, word, next.length === names.length ? undefined : next));
  };
  return (
    <div>
      <p className="sv-editor-head">{tell('bench.eventEditors.stretchesThatAreLit')}</p>
      {names.map((name, i) => (
        <Form.Check
          key={name}
          id={`stretch-${i}`}
          label={name}
          checked={!only || only.includes(i)}
          onChange={({ target }) => set(i, target.checked)}
        />
      ))}
      {!names.length && <p className="sv-none">{tell('bench.eventEditors.theBoardListsNoEvents')}</p>}
    </div>
  );
}

/** The dates of a list, one a line or parted by commas, as people write them; a day is missing where one is none. */
const datesIn = (text: string): { line: string; day: string | undefined }[] =>
  text
    .split(/[\n,;]+|\s+(?=\d{4}-\d\d-\d\d)/)
    .map((line) => line.trim())
    .filter(Boolean)
    .map((line) => ({ line, day: dayFrom(line, english) }));

/** Days on which nobody works: one date a line. They are the same for the whole board. */
export function HolidaysEditor({ board, change }: EditorProps) {
  const [text, setText] = useState((board.holidays ?? []).join('\n'));
  const wrong = datesIn(text).flatMap(({ line, day }) => (day ? [] : line));
  return (
    <div>
      <p className="sv-editor-head">{tell('bench.eventEditors.holidaysOfThisBoardOne')}</p>
      <Form.Control
        as="textarea"
        rows={6}
        size="sm"
        aria-label={tell('bench.eventEditors.holidays')}
        placeholder="2024-12-24"
        value={text}
        isInvalid={wrong.length > 0}
        onChange={({ target }) => {
          setText(target.value);
          const days = datesIn(target.value).flatMap(({ day }) => day ?? []);
          change((_chart, draft) => {
            draft.holidays = [...new Set(days)];
          });
        }}
      />
      <Form.Text className={wrong.length ? 'text-danger' : ''}>
        {wrong.length
          ? tell('bench.eventEditors.notADateWrongWrite', { wrong: wrong.slice(0, 3).join(', ') })
          : tell('bench.eventEditors.saturdaysAndSundaysAreOff')}
      </Form.Text>
    </div>
  );
}
