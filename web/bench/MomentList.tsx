import { arrayMove } from '@dnd-kit/sortable';
import type { Board } from '@sorvik/core/board/board';
import { idFrom } from '@sorvik/core/board/id';
import type { Moment } from '@sorvik/core/board/moment';
import { isAtMoment, momentPositions, positionsOfMoment } from '@sorvik/core/levers/moment-positions';
import { positionText } from '@sorvik/core/levers/position-text';
import { settledPosition } from '@sorvik/core/levers/settled-positions';
import { useMemo } from 'react';
import { useAppDispatch, useAppSelector, useAppStore } from '../app/store';
import { edit } from '../board/board-slice';
import { boardWords } from '../board/board-words';
import { positionsMoved } from '../board/positions-slice';
import { useKnownFacts } from '../levers/facts-context';
import { Explained } from '../ui/Explained';
import { InlineText } from '../ui/InlineText';
import { SortList, useSorted } from '../ui/SortList';

function MomentLine({ board, moment }: { board: Board; moment: Moment }) {
  const dispatch = useAppDispatch();
  const store = useAppStore();
  const { facts } = useKnownFacts();
  const { levers } = board;
  const { ref, isDragged, style, handle } = useSorted(
    moment.id,
    `Move: ${moment.caption}`,
    'Drag to reorder',
  );
  // Finished moves only: nothing is looked through while a lever is dragged.
  const committed = useAppSelector((state) => state.positions.committed);
  const stands = useMemo(
    () => isAtMoment(levers, moment, committed, facts),
    [levers, moment, committed, facts],
  );
  const change = (label: string, recipe: (moment: Moment) => void) =>
    dispatch(
      edit(label, (draft) => {
        const found = draft.moments?.find(({ id }) => id === moment.id);
        if (found) recipe(found);
      }),
    );
  return (
    <li
      ref={ref}
      className={isDragged ? 'sv-moment is-dragged' : 'sv-moment'}
      style={style}
      aria-current={stands}
    >
      {handle}
      <InlineText
        value={moment.caption}
        label={`Caption of the moment ${moment.caption}`}
        onKeep={(caption) =>
          change('a caption', (draft) => {
            draft.caption = caption;
          })
        }
      />
      <span>
        <button
          type="button"
          className="btn btn-link btn-sm"
          aria-label={`Go to ${moment.caption}`}
          disabled={stands}
          onClick={() => dispatch(positionsMoved(positionsOfMoment(levers, moment)))}
        >
          Go to
        </button>
        <button
          type="button"
          className="btn btn-link btn-sm"
          aria-label={`Keep for ${moment.caption} where the levers stand`}
          disabled={stands}
          onClick={() =>
            change('a moment', (draft) => {
              draft.at = momentPositions(levers, store.getState().positions.now, facts);
            })
          }
        >
          Update
        </button>
        <button
          type="button"
          className="sv-take"
          aria-label={`Remove the moment ${moment.caption}`}
          onClick={() =>
            dispatch(
              edit('a moment removed', (draft) => {
                draft.moments = draft.moments?.filter(({ id }) => id !== moment.id) ?? [];
                if (!draft.moments.length) delete draft.moments;
              }),
            )
          }
        >
          ×
        </button>
      </span>
    </li>
  );
}

/** The moments of a board: where its levers stand as it is told, in the order of the telling. */
export function MomentList({ board }: { board: Board }) {
  const dispatch = useAppDispatch();
  const store = useAppStore();
  const { facts } = useKnownFacts();
  const { levers, moments = [] } = board;
  if (!levers.length) return null;
  const keep = () => {
    const positions = store.getState().positions.now;
    const at = momentPositions(levers, positions, facts);
    const words = boardWords(board, undefined);
    const held = levers
      .filter(({ id }) => id in at)
      .map(
        (lever) =>
          `${lever.name} ${positionText(lever, settledPosition(lever, positions, facts).position, facts[lever.id], words)}`,
      );
    dispatch(
      edit('a moment', (draft) => {
        draft.moments ??= [];
        draft.moments.push({
          id: idFrom(
            'moment',
            moments.map(({ id }) => id),
          ),
          caption: (held.join(', ') || 'Start').slice(0, 300),
          at,
        });
      }),
    );
  };
  return (
    <section className="sv-moment-list" aria-label="Moments">
      {moments.length > 0 && <h2>Moments</h2>}
      <SortList
        items={moments.map(({ id, caption }) => ({ id, name: caption }))}
        onMove={(from, to) =>
          dispatch(
            edit('the order of moments', (draft) => {
              draft.moments = arrayMove(draft.moments ?? [], from, to);
            }),
          )
        }
      >
        <ol>
          {moments.map((moment) => (
            <MomentLine key={moment.id} board={board} moment={moment} />
          ))}
        </ol>
      </SortList>
      <Explained word="moment" placement="right">
        <button
          type="button"
          className="btn btn-sm btn-quiet"
          title="Saves the current lever positions as a step of the show"
          onClick={keep}
        >
          + Moment
        </button>
      </Explained>
    </section>
  );
}
