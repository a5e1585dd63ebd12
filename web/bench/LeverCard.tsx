import type { Board } from '@sorvik/core/board/board';
import { datasetOf, leverOf } from '@sorvik/core/board/board';
import { formulasNaming } from '@sorvik/core/board/formulas-naming';
import type { DatasetInfo } from '@sorvik/core/data/dataset';
import { removeLever } from '@sorvik/core/edit/remove-lever';
import { leverPlaces } from '@sorvik/core/levers/lever-base';
import { kindOf, type Lever } from '@sorvik/core/levers/registry';
import { settledPositions } from '@sorvik/core/levers/settled-positions';
import { reachText } from '@sorvik/core/text/lever-reach';
import { clearingText } from '@sorvik/core/text/touch-sentence';
import { english } from '@sorvik/core/words/locale';
import { counted } from '@sorvik/core/words/plural';
import { useDatasetQuery } from '../app/api';
import { useAppDispatch, useAppSelector } from '../app/store';
import { today } from '../app/today';
import { edit } from '../board/board-slice';
import { formulaEngine } from '../board/formula-engine';
import { leversReset } from '../board/positions-slice';
import { useKnownFacts } from '../levers/facts-context';
import { useLever } from '../levers/LeverGroup';
import { CheckField, Fields, plainOptions, SelectField, TextField } from '../levers/setups/fields';
import { setUpKinds } from '../levers/setups/registry';
import { DropButton } from '../ui/DropButton';
import { InlineText } from '../ui/InlineText';

interface Props {
  board: Board;
  lever: Lever;
  /** The dataset of the chart in hand, for levers without one. */
  home: DatasetInfo | undefined;
  onClose(): void;
}

/** The lever in hand: what it reaches, how it is set up, where it starts, where it stands. */
export function LeverCard({ board, lever, home, onClose }: Props) {
  const dispatch = useAppDispatch();
  const { position, facts: known, moved, move } = useLever(lever);
  const { facts } = useKnownFacts();
  const now = useAppSelector((state) => state.positions.now);
  const { data: own } = useDatasetQuery(datasetOf(lever) ?? '', { skip: !datasetOf(lever) });
  const kind = kindOf(lever);
  const { SetUp } = setUpKinds.get(lever.kind);
  const change = (label: string, recipe: (lever: Lever) => void) =>
    dispatch(
      edit(label, (draft) => {
        const target = leverOf(draft, lever.id);
        if (target) recipe(target);
      }),
    );
  const formulas = formulasNaming(board, lever.id);
  const start = kind.settle(lever, kind.start(lever, known), known).position;
  const remove = () => {
    const positionOf = settledPositions(board.levers, now, facts);
    dispatch(
      edit('a lever removed', (draft) =>
        removeLever(draft, lever.id, {
          lever: (id) => leverOf(board, id),
          positionOf,
          today: today(),
          engine: formulaEngine(),
        }),
      ),
    );
    onClose();
  };
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
        It is {kind.noun}, and {reachText(board, lever.id)}.
        {kind.now ? '' : ` It starts with ${kind.summary(lever, start, known, english) || 'nothing'}.`}
      </p>
      <div className="sv-row">
        {!kind.now && (
          <button
            type="button"
            className="btn btn-sm btn-outline-secondary"
            disabled={!moved}
            onClick={() => {
              change("a lever's start", (target) => {
                Object.assign(target, kind.startAt(lever, position));
              });
              dispatch(leversReset([lever.id]));
            }}
          >
            Use current position as start
          </button>
        )}
        {formulas.length ? (
          <DropButton label="Remove lever" title="Remove the lever" placement="top-start">
            {() => (
              <div className="sv-asked">
                <p>
                  {lever.name} is used in {counted(formulas.length, 'formula', english)}, which will keep its
                  current value:
                </p>
                <ul>
                  {formulas.map((text) => (
                    <li key={text}>
                      <code>{text}</code>
                    </li>
                  ))}
                </ul>
                <button type="button" className="btn btn-sm btn-primary" onClick={remove}>
                  Remove it
                </button>
              </div>
            )}
          </DropButton>
        ) : (
          <button type="button" className="btn btn-sm btn-quiet" onClick={remove}>
            Remove lever
          </button>
        )}
      </div>
      <SetUp
        lever={lever}
        position={position}
        facts={known}
        dataset={own ?? home}
        move={move}
        change={(recipe) => change('how a lever is set up', recipe)}
      />
      <Fields>
        <SelectField
          label="When cleared"
          value={lever.clearing}
          options={plainOptions(kind.clearings).map(({ value }) => ({ value, text: clearingText(value) }))}
          onTake={(clearing) =>
            change('what clearing does', (target) => {
              target.clearing = clearing;
            })
          }
        />
        <SelectField
          label="Placement"
          value={lever.place ?? 'side'}
          options={plainOptions(leverPlaces, {
            side: 'beside the charts',
            above: 'above the charts',
            title: 'only inside chart titles',
          })}
          onTake={(place) =>
            change('where a lever is placed', (target) => {
              target.place = place;
            })
          }
        />
        <TextField
          label="Group"
          value={lever.group ?? ''}
          onTake={(group) =>
            change("a lever's group", (target) => {
              if (group.trim()) target.group = group.trim().slice(0, 60);
              else delete target.group;
            })
          }
        />
        <CheckField
          label="Hidden from viewers, fixed at its start"
          value={lever.hidden ?? false}
          onTake={(hidden) =>
            change('who sees a lever', (target) => {
              if (hidden) target.hidden = true;
              else delete target.hidden;
            })
          }
        />
      </Fields>
    </section>
  );
}
