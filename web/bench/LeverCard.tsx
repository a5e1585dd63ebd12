import type { Board } from '@sorvik/core/board/board';
import { leverOf } from '@sorvik/core/board/board';
import { conditionKinds } from '@sorvik/core/conditions/registry';
import { clearings } from '@sorvik/core/levers/lever-kind';
import { isAtStart, positionOf } from '@sorvik/core/levers/positions';
import type { Lever } from '@sorvik/core/levers/registry';
import { leverKinds } from '@sorvik/core/levers/registry';
import { clearingText } from '@sorvik/core/words/chart-sentences';
import { reachText } from '@sorvik/core/words/lever-reach';
import { Form } from 'react-bootstrap';
import { useAppDispatch, useAppSelector } from '../app/store';
import { edit } from '../board/board-slice';
import { leverReset } from '../board/positions-slice';
import { useListed } from '../levers/use-listed';
import { InlineText } from '../ui/InlineText';

/** Takes a lever off the board with every sentence that reads or moves it. */
function removeLever(draft: Board, id: string): void {
  draft.levers = draft.levers.filter((lever) => lever.id !== id);
  for (const chart of draft.charts) {
    chart.cues = chart.cues.filter(
      (cue) => !conditionKinds.get(cue.condition.kind).levers(cue.condition).includes(id),
    );
    chart.touches = chart.touches.filter((touch) => touch.lever !== id);
  }
}

/** The lever in hand: its name, its start, what clearing does, what it reaches. */
export function LeverCard({ board, lever, onClose }: { board: Board; lever: Lever; onClose(): void }) {
  const dispatch = useAppDispatch();
  const position = useAppSelector((state) => positionOf(lever, state.positions));
  const atStart = useAppSelector((state) => isAtStart(lever, state.positions));
  const { values } = useListed(lever);
  const kind = leverKinds.get(lever.kind);
  const change = (label: string, recipe: (lever: Lever) => void) =>
    dispatch(
      edit(label, (draft) => {
        const target = leverOf(draft, lever.id);
        if (target) recipe(target);
      }),
    );
  return (
    <section className="sv-lever-card" aria-label={`Lever ${lever.name}`}>
      <header>
        <InlineText
          value={lever.name}
          label="Name of the lever"
          className="sv-desk-title"
          onKeep={(name) =>
            change("a lever's name", (target) => {
              target.name = name.slice(0, 80);
            })
          }
        />
        <button type="button" className="btn-close" aria-label="Close the lever's card" onClick={onClose} />
      </header>
      <p>
        It {reachText(board, lever.id)}. It starts with{' '}
        {kind.isEmpty(lever.start)
          ? 'nothing'
          : kind.summary(lever.start, values?.length ?? lever.start.length)}
        .
      </p>
      <Form.Group className="sv-row">
        <Form.Label htmlFor="lever-clearing">Clearing</Form.Label>
        <Form.Select
          id="lever-clearing"
          size="sm"
          value={lever.clearing}
          onChange={(event) =>
            change('what clearing does', (target) => {
              target.clearing = clearings.find((clearing) => clearing === event.target.value)!;
            })
          }
        >
          {clearings.map((clearing) => (
            <option key={clearing} value={clearing}>
              {clearingText(clearing)}
            </option>
          ))}
        </Form.Select>
      </Form.Group>
      <div className="sv-row">
        <button
          type="button"
          className="btn btn-sm btn-outline-secondary"
          disabled={atStart}
          onClick={() => {
            change("a lever's start", (target) => {
              target.start = [...(position as Lever['start'])];
            });
            dispatch(leverReset(lever.id));
          }}
        >
          Start here
        </button>
        <button
          type="button"
          className="btn btn-sm btn-quiet"
          onClick={() => {
            dispatch(edit('a lever removed', (draft) => removeLever(draft, lever.id)));
            onClose();
          }}
        >
          Remove lever
        </button>
      </div>
    </section>
  );
}
