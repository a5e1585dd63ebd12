import type { DatasetView } from '@sorvik/core/board/api-types';
import { tableAddress } from '@sorvik/core/data/table-address';
import { Form } from 'react-bootstrap';
import { tell } from '../ui/tell';
import { tableText } from './origins';

interface Props {
  tables: readonly DatasetView[];
  /** Its address. */
  value: string;
  onChange(address: string): void;
}

/** One of the tables in place. */
export function TableChoice({ tables, value, onChange }: Props) {
  return (
    <Form.Select
      size="sm"
      required
      className="sv-address"
      aria-label={tell('dataset.origins.tableInPlace')}
      value={value}
      onChange={({ target }) => onChange(target.value)}
    >
      <option value="" disabled>
        {tell('dataset.origins.chooseATable')}
      </option>
      {tables.map((each) => (
        <option key={each.id} value={tableAddress(each.id)}>
          {tableText(each)}
        </option>
      ))}
    </Form.Select>
  );
}
