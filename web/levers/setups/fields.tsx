import { english } from '@sorvik/core/messages/locale';
import { figureFrom } from '@sorvik/core/words/figure-from';
import { type ReactNode, useEffect, useId, useState } from 'react';
import { tell } from '../../ui/tell';

interface Labelled {
  label: string;
}

/** A text that is taken when it is left or Enter is pressed. */
export function TextField({
  label,
  value,
  onTake,
  placeholder,
  problem,
}: Labelled & {
  value: string;
  placeholder?: string;
  problem?: string | undefined;
  onTake(text: string): void;
}) {
  const id = useId();
  const [text, setText] = useState(value);
  useEffect(() => setText(value), [value]);
  const take = () => text !== value && onTake(text);
  return (
    <div className="sv-field">
      <label htmlFor={id}>{label}</label>
      <input
        id={id}
        className="form-control form-control-sm"
        value={text}
        placeholder={placeholder}
        aria-invalid={problem !== undefined}
        maxLength={80}
        onChange={(event) => setText(event.target.value)}
        onBlur={take}
        onKeyDown={(event) => event.key === 'Enter' && take()}
      />
      {problem && (
        <small className="sv-problem" data-part="problem">
          {problem}
        </small>
      )}
    </div>
  );
}

/** A figure; what cannot be read, or may not be, is said and not taken. */
export function FigureField({
  label,
  value,
  accept = () => undefined,
  onTake,
}: Labelled & {
  value: number;
  /** What is wrong with a figure, if something is. */
  accept?(figure: number): string | undefined;
  onTake(figure: number): void;
}) {
  const [problem, setProblem] = useState<string>();
  return (
    <TextField
      label={label}
      value={String(value)}
      problem={problem}
      onTake={(text) => {
        const { figure, percent } = figureFrom(text, english);
        const read = percent ? figure / 100 : figure;
        const wrong = Number.isFinite(read) ? accept(read) : tell('levers.fields.enterANumber');
        setProblem(wrong);
        if (!wrong) onTake(read);
      }}
    />
  );
}

export const positive = (figure: number) => (figure > 0 ? undefined : tell('levers.fields.moreThan'));

export function SelectField<T extends string>({
  label,
  value,
  options,
  onTake,
}: Labelled & { value: T; options: readonly { value: T; text: string }[]; onTake(value: T): void }) {
  const id = useId();
  return (
    <div className="sv-field">
      <label htmlFor={id}>{label}</label>
      <select
        id={id}
        className="form-select form-select-sm"
        value={value}
        onChange={(event) => {
          const chosen = options.find((option) => option.value === event.target.value);
          if (chosen) onTake(chosen.value);
        }}
      >
        {options.map((option) => (
          <option key={option.value} value={option.value}>
            {option.text}
          </option>
        ))}
      </select>
    </div>
  );
}

export function CheckField({
  label,
  value,
  onTake,
}: Labelled & { value: boolean; onTake(value: boolean): void }) {
  const id = useId();
  return (
    <div className="form-check sv-check-field">
      <input
        id={id}
        type="checkbox"
        className="form-check-input"
        checked={value}
        onChange={(event) => onTake(event.target.checked)}
      />
      <label className="form-check-label" htmlFor={id}>
        {label}
      </label>
    </div>
  );
}

export const Fields = ({ children }: { children: ReactNode }) => <div className="sv-fields">{children}</div>;

/** Options of a select from texts that are their own values. */
export const plainOptions = <T extends string>(
  values: readonly T[],
  texts: Partial<Record<T, string>> = {},
) => values.map((value) => ({ value, text: texts[value] ?? value }));
