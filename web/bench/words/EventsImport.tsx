import type { DatasetView } from '@sorvik/core/board/api-types';
import type { BoardEvent } from '@sorvik/core/board/event';
import { isTemporal } from '@sorvik/core/data/values';
import { eventsFromRows } from '@sorvik/core/edit/events-from-rows';
import { english } from '@sorvik/core/messages/locale';
import { counted, listed as inAList } from '@sorvik/core/words/plural';
import { useState } from 'react';
import { Form } from 'react-bootstrap';
import { problemText, useDatasetQuery } from '../../app/api';
import { useDatasetsQuery, useRowsQuery } from '../../app/editing-api';
import { Problem } from '../../ui/Problem';
import { tell } from '../../ui/tell';

const rowsRead = 1000;

interface Props {
  listed: readonly BoardEvent[];
  /** The dataset to begin with. */
  home: string;
  onTake(events: BoardEvent[]): void;
}

/** Events taken from the rows of a dataset: one field has their names, another their days. */
export function EventsImport({ listed, home, onTake }: Props) {
  const { data: datasets } = useDatasetsQuery();
  const [id, setId] = useState(home);
  const { data: dataset } = useDatasetQuery(id);
  return (
    <div className="sv-events-import">
      <Form.Select
        size="sm"
        aria-label={tell('bench.eventsImport.datasetOfTheEvents')}
        value={id}
        onChange={({ target }) => setId(target.value)}
      >
        {datasets?.map((each) => (
          <option key={each.id} value={each.id}>
            {each.name}
          </option>
        ))}
      </Form.Select>
      {dataset && <FromRows key={dataset.id} {...{ dataset, listed, onTake }} />}
    </div>
  );
}

function FromRows({ dataset, listed, onTake }: Pick<Props, 'listed' | 'onTake'> & { dataset: DatasetView }) {
  const { fields } = dataset;
  const dates = fields.filter(({ type }) => isTemporal(type));
  const names = fields.filter(({ type }) => type === 'text');
  const [name, setName] = useState(names[0]?.key);
  const [date, setDate] = useState(dates[0]?.key);
  const { data, error } = useRowsQuery({
    id: dataset.id,
    offset: 0,
    limit: rowsRead,
    version: dataset.version,
  });
  if (!dates.length || !names.length)
    return <Problem>{tell('bench.eventsImport.thisDatasetCannotBeUsed')}</Problem>;
  if (error) return <Problem>{problemText(error)}</Problem>;
  const at = (key: string | undefined) => fields.findIndex((field) => field.key === key);
  const found = data ? eventsFromRows(data.rows, at(name), at(date), listed) : [];
  const select = (
    label: string,
    of: typeof fields,
    value: string | undefined,
    set: (key: string) => void,
  ) => (
    <Form.Select size="sm" aria-label={label} value={value} onChange={({ target }) => set(target.value)}>
      {of.map((field) => (
        <option key={field.key} value={field.key}>
          {field.name}
        </option>
      ))}
    </Form.Select>
  );
  return (
    <>
      {select(tell('bench.eventsImport.fieldWithTheNames'), names, name, setName)}
      {select(tell('bench.eventsImport.fieldWithTheDays'), dates, date, setDate)}
      <p className="sv-editor-note">
        {data
          ? tell('bench.eventsImport.notListedYet', {
              n: found.length,
              part: dataset.rows > rowsRead ? 'yes' : 'no',
              read: rowsRead,
              rows: dataset.rows,
              names: inAList(
                found.slice(0, 2).map((event) => event.name),
                english,
                2,
                found.length,
              ),
            })
          : tell('bench.eventsImport.loading')}
      </p>
      <button
        type="button"
        className="btn btn-sm btn-outline-secondary"
        disabled={!found.length}
        onClick={() => onTake(found)}
      >
        {tell('bench.eventsImport.takeFound', { found: counted(found.length, 'event', english) })}
      </button>
    </>
  );
}
