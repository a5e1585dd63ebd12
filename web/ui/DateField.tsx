import { isDateText } from '@sorvik/core/data/periods';
import { useState } from 'react';
import { Form } from 'react-bootstrap';

interface Props {
  label: string;
  /** `YYYY-MM-DD`. */
  value: string;
  onTake(day: string): void;
}

/** While a year is typed it goes through the first thousand years. */
const isWhole = (text: string) => isDateText(text as unknown) && !text.startsWith('0');

/**
 * A day, typed part by part. What is typed stays in the field until it is a day: put back to the last one in between,
 * a browser would forget the nought of "03".
 */
export function DateField({ label, value, onTake }: Props) {
  const [typed, setTyped] = useState<string | null>(null);
  return (
    <Form.Control
      size="sm"
      type="date"
      aria-label={label}
      value={typed ?? value}
      onChange={({ target }) => {
        setTyped(target.value);
        if (isWhole(target.value)) onTake(target.value);
      }}
      onBlur={() => setTyped(null)}
    />
  );
}
