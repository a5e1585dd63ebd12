import type { DatasetView, RefreshMode } from '@sorvik/core/board/api-types';
import { datasetAt, tableAddress } from '@sorvik/core/data/table-address';
import { type FormEvent, useState } from 'react';
import { Button, Form } from 'react-bootstrap';
import { useSearchParams } from 'react-router';
import { problemText } from '../app/api';
import {
  useDatasetsQuery,
  useRemoveScheduleMutation,
  useRunScheduleMutation,
  useSetScheduleMutation,
} from '../app/editing-api';
import { Problem } from '../ui/Problem';
import { tell } from '../ui/tell';
import { recentText } from '../ui/time-text';
import { originText } from './origins';
import { TableChoice } from './TableChoice';

/** How often, as authors say it; `own` is a cron expression of their own. */
type Often = 'hourly' | 'daily' | 'weekdays' | 'own';
const oftens: Often[] = ['hourly', 'daily', 'weekdays', 'own'];

interface When {
  often: Often;
  /** Hours and minutes, as "06:00". */
  at: string;
  own: string;
}

const two = (text: string) => text.padStart(2, '0');

/** What a cron expression says, as authors say it. */
export function readWhen(cadence: string): When {
  const usual = { at: '06:00', own: cadence };
  const hourly = /^(\d+) \* \* \* \*$/.exec(cadence);
  if (hourly) return { ...usual, often: 'hourly', at: `00:${two(hourly[1]!)}` };
  const daily = /^(\d+) (\d+) \* \* (\*|1-5)$/.exec(cadence);
  if (!daily) return { ...usual, often: 'own' };
  return {
    ...usual,
    often: daily[3] === '*' ? 'daily' : 'weekdays',
    at: `${two(daily[2]!)}:${two(daily[1]!)}`,
  };
}

/** The cron expression of what an author says. */
export function cadenceOf({ often, at, own }: When): string {
  const [hour = '6', minute = '0'] = at.split(':').map((part) => String(Number(part)));
  if (often === 'own') return own.trim();
  if (often === 'hourly') return `${minute} * * * *`;
  return `${minute} ${hour} * * ${often === 'daily' ? '*' : '1-5'}`;
}

const zones = Intl.supportedValuesOf('timeZone');
const ownZone = Intl.DateTimeFormat().resolvedOptions().timeZone;

/** How the last refresh went, and when the next one is. */
export function ScheduleStatus({ dataset }: { dataset: DatasetView }) {
  const { schedule } = dataset;
  const { data: datasets = [] } = useDatasetsQuery(undefined, { skip: !schedule });
  if (!schedule) return null;
  const { nextAt, doneAt, problem, failures } = schedule;
  const address = originText(schedule.address, datasets);
  return (
    <div data-part="schedule">
      <p className="sv-hint">
        {tell('dataset.bySelf.status', {
          address,
          done: doneAt ? recentText(doneAt) : '',
          ever: doneAt ? 'yes' : 'no',
          next: nextAt ? recentText(nextAt) : '',
        })}
      </p>
      {problem && <Problem>{tell('dataset.bySelf.failed', { problem, n: failures })}</Problem>}
    </div>
  );
}

/** Has a dataset refreshed by itself: from which address, and when. */
export function BySelf({ dataset, mode, by }: { dataset: DatasetView; mode: RefreshMode; by: string }) {
  const { id, schedule } = dataset;
  // Somebody has just copied a table, and comes to have that done by itself.
  const from = useSearchParams()[0].get('from');
  const [address, setAddress] = useState(schedule?.address ?? (from ? tableAddress(from) : ''));
  const [fromTable, setFromTable] = useState(datasetAt(address) !== null);
  const { data: datasets } = useDatasetsQuery();
  const tables = datasets?.filter(({ inPlace }) => inPlace) ?? [];
  const [when, setWhen] = useState(() => readWhen(schedule?.cadence ?? '0 6 * * *'));
  const [zone, setZone] = useState(schedule?.zone ?? ownZone);
  const [set, setting] = useSetScheduleMutation();
  const [remove, removing] = useRemoveScheduleMutation();
  const [run, running] = useRunScheduleMutation();
  const error = setting.error ?? removing.error ?? running.error;
  const submit = (event: FormEvent) => {
    event.preventDefault();
    void set({ id, address, mode, ...(mode === 'merge' ? { by } : {}), cadence: cadenceOf(when), zone });
  };
  return (
    <Form onSubmit={submit} className="sv-by-self">
      <ScheduleStatus dataset={dataset} />
      {(tables.length > 0 || datasetAt(address) !== null) && (
        <fieldset className="sv-row">
          <legend className="visually-hidden">{tell('dataset.bySelf.fromWhere')}</legend>
          {(['address', 'table'] as const).map((from) => (
            <Form.Check
              key={from}
              type="radio"
              name="from"
              id={`from-${from}`}
              label={tell('dataset.bySelf.from', { from })}
              checked={(from === 'table') === fromTable}
              onChange={() => {
                setFromTable(from === 'table');
                setAddress('');
              }}
            />
          ))}
        </fieldset>
      )}
      {fromTable ? (
        <TableChoice tables={tables} value={address} onChange={setAddress} />
      ) : (
        <Form.Group controlId="schedule-address">
          <Form.Label>{tell('dataset.bySelf.address')}</Form.Label>
          <Form.Control
            size="sm"
            type="url"
            required
            placeholder="https://"
            value={address}
            onChange={(event) => setAddress(event.target.value)}
          />
        </Form.Group>
      )}
      <div className="sv-row">
        <Form.Select
          size="sm"
          aria-label={tell('dataset.bySelf.howOften')}
          value={when.often}
          onChange={(event) => setWhen({ ...when, often: event.target.value as Often })}
        >
          {oftens.map((often) => (
            <option key={often} value={often}>
              {tell('dataset.bySelf.often', { often })}
            </option>
          ))}
        </Form.Select>
        {when.often === 'own' ? (
          <Form.Control
            size="sm"
            required
            aria-label={tell('dataset.bySelf.cron')}
            placeholder="0 6 * * 1-5"
            value={when.own}
            onChange={(event) => setWhen({ ...when, own: event.target.value })}
          />
        ) : (
          <Form.Control
            size="sm"
            type="time"
            required
            aria-label={tell('dataset.bySelf.time', { often: when.often })}
            value={when.at}
            onChange={(event) => setWhen({ ...when, at: event.target.value })}
          />
        )}
        <Form.Select
          size="sm"
          aria-label={tell('dataset.bySelf.zone')}
          value={zone}
          onChange={(event) => setZone(event.target.value)}
        >
          {[...new Set([zone, ...zones, 'UTC'])].map((each) => (
            <option key={each}>{each}</option>
          ))}
        </Form.Select>
      </div>
      {error && <Problem role="alert">{problemText(error)}</Problem>}
      <div className="sv-row">
        <Button size="sm" type="submit" disabled={setting.isLoading}>
          {schedule ? tell('dataset.bySelf.change') : tell('dataset.bySelf.set')}
        </Button>
        {schedule && (
          <>
            <Button size="sm" variant="outline-secondary" onClick={() => run(id)}>
              {tell('dataset.bySelf.now')}
            </Button>
            <Button size="sm" variant="quiet" onClick={() => remove(id)}>
              {tell('dataset.bySelf.stop')}
            </Button>
          </>
        )}
      </div>
    </Form>
  );
}
