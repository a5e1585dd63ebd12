import { markTextProblem } from '@sorvik/core/pipeline/mark-formula';
import { tell } from '../../ui/tell';
import type { EditorProps } from './editor-kind';
import { MarkFormula } from './FormulaEditor';

/** A formula that says something of each mark: beside it, or where it is pointed at. */
export const MarkTextEditor = (props: EditorProps) => (
  <MarkFormula
    {...props}
    problemOf={markTextProblem}
    note={tell('bench.markTextEditor.sqlExpressionThatGivesThe')}
    starts={[
      "CAST(RANK() OVER (ORDER BY value DESC) AS VARCHAR) || '.'",
      'ROUND(100 * value / SUM(value) OVER (), 1)',
      `value - LAG(value) OVER (ORDER BY ${props.chart.by.field})`,
    ]}
  />
);
