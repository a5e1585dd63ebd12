import {
  autocompletion,
  type Completion,
  type CompletionContext,
  closeBrackets,
  closeCompletion,
  completionKeymap,
  completionStatus,
} from '@codemirror/autocomplete';
import { defaultKeymap, history, historyKeymap } from '@codemirror/commands';
import { PostgreSQL, sql } from '@codemirror/lang-sql';
import { bracketMatching, syntaxHighlighting } from '@codemirror/language';
import { setDiagnostics } from '@codemirror/lint';
import { Compartment, EditorState } from '@codemirror/state';
import { EditorView, type KeyBinding, keymap } from '@codemirror/view';
import { classHighlighter } from '@lezer/highlight';
import type { FormulaProblem } from '@sorvik/formula/expression';
import { useEffect, useRef } from 'react';
import { formulaEngine } from '../board/formula-engine';

export interface FormulaBoxProps {
  label: string;
  value: string;
  /** What can be named: fields and levers, each with what it is, and what is put in for it by a press. */
  names: readonly { name: string; note: string; put?: string }[];
  problem: FormulaProblem | null;
  /** The id of the text that says what is wrong. */
  describedBy: string;
  onChange(text: string): void;
}

const longest = 10_000;
const keywords =
  'CASE WHEN THEN ELSE END AND OR NOT BETWEEN IN LIKE IS NULL CAST OVER PARTITION BY ORDER DESC FILTER WHERE INTERVAL'.split(
    ' ',
  );

/** Esc closes what is offered; else it is the word's, which takes back what was tried. */
const keys: KeyBinding[] = [
  {
    key: 'Escape',
    run: (view) => completionStatus(view.state) === 'active' && closeCompletion(view),
  },
  ...[...completionKeymap, ...defaultKeymap, ...historyKeymap].filter(({ key }) => key !== 'Escape'),
];

/** Offers names, functions with how they are written, and key words. */
const completions =
  (names: FormulaBoxProps['names']) =>
  (context: CompletionContext): { from: number; options: Completion[] } | null => {
    const typed = context.matchBefore(/:?[\p{L}_][\p{L}\p{N}_.]*|:/u);
    if (!typed && !context.explicit) return null;
    return {
      from: typed?.from ?? context.pos,
      options: [
        ...names.map(({ name, note }) => ({ label: name, detail: note, boost: 2 })),
        ...(formulaEngine()?.functions ?? []).map(({ name, signature }) => ({
          label: name,
          detail: signature,
          apply: `${name}(`,
        })),
        ...keywords.map((label) => ({ label, boost: -1 })),
      ],
    };
  };

/** Where a formula is typed: its words are told apart, what is wrong is underlined, and names are offered. */
export default function FormulaBox({ label, value, names, problem, describedBy, onChange }: FormulaBoxProps) {
  const place = useRef<HTMLDivElement>(null);
  const view = useRef<EditorView>(null);
  const offers = useRef(new Compartment());
  const changed = useRef(onChange);
  changed.current = onChange;
  const first = useRef({ value, names });

  useEffect(() => {
    const made = new EditorView({
      parent: place.current!,
      state: EditorState.create({
        doc: first.current.value,
        extensions: [
          history(),
          closeBrackets(),
          bracketMatching(),
          sql({ dialect: PostgreSQL }),
          syntaxHighlighting(classHighlighter),
          offers.current.of(autocompletion({ override: [completions(first.current.names)], icons: false })),
          keymap.of(keys),
          EditorView.lineWrapping,
          EditorView.contentAttributes.of({ 'aria-label': label, 'aria-describedby': describedBy }),
          EditorState.changeFilter.of((change) => change.newDoc.length <= longest),
          EditorView.updateListener.of((update) => {
            if (update.docChanged) changed.current(update.state.doc.toString());
          }),
        ],
      }),
    });
    view.current = made;
    made.focus();
    return () => made.destroy();
  }, [label, describedBy]);

  useEffect(() => {
    view.current?.dispatch({
      effects: offers.current.reconfigure(autocompletion({ override: [completions(names)], icons: false })),
    });
  }, [names]);

  useEffect(() => {
    const now = view.current!;
    const shown = now.state.doc.toString();
    // What is put in from outside, not what has just been typed here.
    if (shown !== value) now.dispatch({ changes: { from: 0, to: shown.length, insert: value } });
  }, [value]);

  useEffect(() => {
    const now = view.current!;
    const end = now.state.doc.length;
    const from = Math.min(problem?.from ?? 0, end);
    const to = Math.min(Math.max(problem?.to ?? 0, from + 1), end);
    now.dispatch(
      setDiagnostics(
        now.state,
        problem ? [{ from: Math.min(from, to), to, severity: 'error', message: problem.message }] : [],
      ),
    );
  }, [problem]);

  return <div className="sv-formula-box" ref={place} />;
}
