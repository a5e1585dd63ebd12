import type { FormulaProblem } from '@sorvik/formula/expression';
import { lazy, Suspense, useId } from 'react';
import { tell } from '../ui/tell';
import type { FormulaBoxProps } from './FormulaBox';
import { useTypedBefore } from './typed-before';

/** The editor is large: it comes with the first formula that is typed. */
const FormulaBox = lazy(() => import('./FormulaBox'));

interface Props extends Omit<FormulaBoxProps, 'describedBy'> {
  /** What a right formula is, in words. */
  note: string;
  /** Formulas to begin with. */
  starts: readonly string[];
}

const around = (text: string, { from, to, message }: FormulaProblem) => (
  <>
    {text.slice(Math.max(0, from - 24), from)}
    <mark>{text.slice(from, to) || ' '}</mark>
    {text.slice(to, to + 12)}: {message}
  </>
);

/** A formula: what is wrong with it is said and marked where it stands; names and examples can be put in. */
export function FormulaField({ note, starts, ...box }: Props) {
  const says = useId();
  const { value, problem, names, onChange } = box;
  const before = useTypedBefore(value);
  return (
    <div className="sv-formula" data-part="formula">
      <Suspense fallback={<p className="sv-loading">{tell('ui.formulaField.loading')}</p>}>
        <FormulaBox {...box} describedBy={says} />
      </Suspense>
      <p id={says} className={problem ? 'sv-problem' : 'sv-editor-note'} role="status">
        {problem ? around(value, problem) : note}
      </p>
      {before !== undefined && before !== value && (
        <button type="button" className="sv-option" onClick={() => onChange(before)}>
          {tell('ui.formulaField.putBackWhatWasTyped')} <code>{before}</code>
        </button>
      )}
      <div className="sv-live-words">
        {names.map(({ name, note, put = name }) => (
          <button
            key={name}
            type="button"
            className="btn btn-sm btn-quiet"
            title={note}
            onClick={() => onChange(`${value}${/[\s(]$|^$/.test(value) ? '' : ' '}${put}`)}
          >
            {put}
          </button>
        ))}
      </div>
      {starts.length > 0 && <p className="sv-editor-head">{tell('ui.formulaField.examples')}</p>}
      {starts.map((start) => (
        <button key={start} type="button" className="sv-option" onClick={() => onChange(start)}>
          <code>{start}</code>
        </button>
      ))}
    </div>
  );
}
