import type { Board } from '@sorvik/core/board/board';
import { datasetOf, leverOf } from '@sorvik/core/board/board';
import { formulasNaming } from '@sorvik/core/board/formulas-naming';
import type { DatasetInfo } from '@sorvik/core/data/dataset';
import { today } from '@sorvik/core/data/today';
import { removeLever } from '@sorvik/core/edit/remove-lever';
import { leverPlaces } from '@sorvik/core/levers/lever-base';
import { kindOf, type Lever } from '@sorvik/core/levers/registry';
import { settledPositions } from '@sorvik/core/levers/settled-positions';
import { english } from '@sorvik/core/messages/locale';
import { say } from '@sorvik/core/messages/say';
import { reachText } from '@sorvik/core/text/lever-reach';
import { clearingText } from '@sorvik/core/text/touch-sentence';
import { counted } from '@sorvik/core/words/plural';
import { useDatasetQuery } from '../app/api';
import { useAppDispatch, useAppSelector } from '../app/store';
import { edit } from '../board/board-slice';
import { formulaEngine } from '../board/formula-engine';
import { leversReset } from '../board/positions-slice';
import { useKnownFacts } from '../levers/facts-context';
import { useLever } from '../levers/LeverGroup';
import { CheckField, Fields, plainOptions, SelectField, TextField } from '../levers/setups/fields';
import { setUpKinds } from '../levers/setups/registry';
import { DropButton } from '../ui/DropButton';
import { InlineText } from '../ui/InlineText';
import { tell } from '../ui/tell';

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
      edit(tell('bench.leverCard.aLeverRemoved'), (draft) =>
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
    <section className="sv-lever-card" aria-label={tell('bench.leverCard.leverLever', { lever: lever.name })}>
      <header>
        <InlineText
          value={lever.name}
          label={tell('bench.leverCard.nameOfTheLever')}
          className="sv-desk-title"
          onKeep={(name) =>
            change(tell('bench.leverCard.aLeverSName'), (target) => {
              target.name = name.slice(0, 80);
            })
          }
        />
        <button
          type="button"
          className="btn-close"
          aria-label={tell('bench.leverCard.closeTheLeverSCard')}
          onClick={onClose}
        />
      </header>
      <p>
        {tell('bench.leverCard.whatItIs', {
          kind: kind.noun,
          reach: reachText(board, lever.id),
          starts: kind.now ? 'no' : 'yes',
          start: kind.now ? '' : kind.summary(lever, start, known, english) || say(english, 'lever.nothing'),
        })}
      </p>
      <div className="sv-row">
        {!kind.now && (
          <button
            type="button"
            className="btn btn-sm btn-outline-secondary"
            disabled={!moved}
            onClick={() => {
              change(tell('bench.leverCard.aLeverSStart'), (target) => {
                Object.assign(target, kind.startAt(lever, position));
              });
              dispatch(leversReset([lever.id]));
            }}
          >
            {tell('bench.leverCard.useCurrentPositionAsStart')}
          </button>
        )}
        {formulas.length ? (
          <DropButton
            label={tell('bench.leverCard.removeLever')}
            title={tell('bench.leverCard.removeTheLever')}
            placement="top-start"
          >
            {() => (
              <div className="sv-asked">
                <p>
                  {tell('bench.leverCard.leverIsUsedInFormulas', {
                    lever: lever.name,
                    formulas: counted(formulas.length, 'formula', english),
                  })}
                </p>
                <ul>
                  {formulas.map((text) => (
                    <li key={text}>
                      <code>{text}</code>
                    </li>
                  ))}
                </ul>
                <button type="button" className="btn btn-sm btn-primary" onClick={remove}>
                  {tell('bench.leverCard.removeIt')}
                </button>
              </div>
            )}
          </DropButton>
        ) : (
          <button type="button" className="btn btn-sm btn-quiet" onClick={remove}>
            {tell('bench.leverCard.removeLever')}
          </button>
        )}
      </div>
      <SetUp
        lever={lever}
        position={position}
        facts={known}
        dataset={own ?? home}
        move={move}
        change={(recipe) => change(tell('bench.leverCard.howALeverIsSet'), recipe)}
      />
      <Fields>
        <SelectField
          label={tell('bench.leverCard.whenCleared')}
          value={lever.clearing}
          options={plainOptions(kind.clearings).map(({ value }) => ({ value, text: clearingText(value) }))}
          onTake={(clearing) =>
            change(tell('bench.leverCard.whatClearingDoes'), (target) => {
              target.clearing = clearing;
            })
          }
        />
        <SelectField
          label={tell('bench.leverCard.placement')}
          value={lever.place ?? 'side'}
          options={plainOptions(leverPlaces, {
            side: tell('bench.leverCard.besideTheCharts'),
            above: tell('bench.leverCard.aboveTheCharts'),
            title: tell('bench.leverCard.onlyInsideChartTitles'),
          })}
          onTake={(place) =>
            change(tell('bench.leverCard.whereALeverIsPlaced'), (target) => {
              target.place = place;
            })
          }
        />
        <TextField
          label={tell('bench.leverCard.group')}
          value={lever.group ?? ''}
          onTake={(group) =>
            change(tell('bench.leverCard.aLeverSGroup'), (target) => {
              if (group.trim()) target.group = group.trim().slice(0, 60);
              else delete target.group;
            })
          }
        />
        <CheckField
          label={tell('bench.leverCard.hiddenFromViewersFixedAt')}
          value={lever.hidden ?? false}
          onTake={(hidden) =>
            change(tell('bench.leverCard.whoSeesALever'), (target) => {
              if (hidden) target.hidden = true;
              else delete target.hidden;
            })
          }
        />
      </Fields>
    </section>
  );
}
