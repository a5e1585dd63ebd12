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
import { tell } from '../ui/tell';

function MomentLine({ board, moment }: { board: Board; moment: Moment }) {
  const dispatch = useAppDispatch();
  const store = useAppStore();
  const { facts } = useKnownFacts();
  const { levers } = board;
  const { ref, isDragged, style, handle } = useSorted(
    moment.id,
    tell('bench.momentList.moveMoment', { moment: moment.caption }),
    tell('bench.momentList.dragToReorder'),
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
        label={tell('bench.momentList.captionOfTheMomentCaption', { caption: moment.caption })}
        onKeep={(caption) =>
          change(tell('bench.momentList.aCaption'), (draft) => {
            draft.caption = caption;
          })
        }
      />
      <span>
        <button
          type="button"
          className="btn btn-link btn-sm"
          aria-label={tell('bench.momentList.goToCaption', { caption: moment.caption })}
          disabled={stands}
          onClick={() => dispatch(positionsMoved(positionsOfMoment(levers, moment)))}
        >
          {tell('bench.momentList.goTo')}
        </button>
        <button
          type="button"
          className="btn btn-link btn-sm"
          aria-label={tell('bench.momentList.keepForCaptionWhereThe', { caption: moment.caption })}
          disabled={stands}
          onClick={() =>
            change(tell('bench.momentList.aMoment'), (draft) => {
              draft.at = momentPositions(levers, store.getState().positions.now, facts);
            })
          }
        >
          {tell('bench.momentList.update')}
        </button>
        <button
          type="button"
          className="sv-take"
          aria-label={tell('bench.momentList.removeTheMomentCaption', { caption: moment.caption })}
          onClick={() =>
            dispatch(
              edit(tell('bench.momentList.aMomentRemoved'), (draft) => {
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
      edit(tell('bench.momentList.aMoment'), (draft) => {
        draft.moments ??= [];
        draft.moments.push({
          id: idFrom(
            'moment',
            moments.map(({ id }) => id),
          ),
          caption: (held.join(', ') || tell('bench.momentList.start')).slice(0, 300),
          at,
        });
      }),
    );
  };
  return (
    <section className="sv-moment-list" aria-label={tell('bench.momentList.moments')}>
      {moments.length > 0 && <h2>{tell('bench.momentList.moments')}</h2>}
      <SortList
        items={moments.map(({ id, caption }) => ({ id, name: caption }))}
        onMove={(from, to) =>
          dispatch(
            edit(tell('bench.momentList.theOrderOfMoments'), (draft) => {
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
          title={tell('bench.momentList.savesTheCurrentLeverPositions')}
          onClick={keep}
        >
          {tell('bench.momentList.moment')}
        </button>
      </Explained>
    </section>
  );
}
