import { arrayMove } from '@dnd-kit/sortable';
import type { Board } from '@sorvik/core/board/board';
import type { Lever } from '@sorvik/core/levers/registry';
import { reachText } from '@sorvik/core/text/lever-reach';
import { useAppDispatch } from '../app/store';
import { edit } from '../board/board-slice';
import { LeverGroup } from '../levers/LeverGroup';
import { LeverRows } from '../levers/LeverRows';
import { SortList, useSorted } from '../ui/SortList';
import { tell } from '../ui/tell';

interface Props {
  board: Board;
  levers: Lever[];
  inHand: string | null;
  spoken: readonly string[];
  onPoint(lever: string | null): void;
  onTake(lever: string | null): void;
}

const placeWords: Record<string, string> = {
  above: tell('bench.leverCard.aboveTheCharts'),
  title: tell('bench.leverColumn.inTitles'),
};

function SortableLever({ lever, ...props }: Props & { lever: Lever }) {
  const { board, inHand, spoken, onPoint, onTake } = props;
  const { ref, isDragged, style, handle } = useSorted(
    lever.id,
    tell('bench.leverColumn.moveLever', { lever: lever.name }),
    tell('bench.leverColumn.dragToReorder'),
  );
  const taken = lever.id === inHand;
  const marks = [
    lever.place && placeWords[lever.place],
    lever.hidden && tell('bench.leverColumn.hiddenFromViewers'),
  ].filter(Boolean);
  return (
    <div
      ref={ref}
      className={[spoken.includes(lever.id) && 'is-spoken', isDragged && 'is-dragged']
        .filter(Boolean)
        .join(' ')}
      style={style}
    >
      <LeverGroup lever={lever} onPoint={(pointed) => onPoint(pointed ? lever.id : null)} handle={handle}>
        <button
          type="button"
          className="btn btn-link btn-sm"
          aria-label={tell('bench.leverColumn.editLever', { lever: lever.name })}
          aria-pressed={taken}
          onClick={() => onTake(taken ? null : lever.id)}
        >
          {tell('bench.leverColumn.edit')}
        </button>
      </LeverGroup>
      <p className="sv-reach">{[reachText(board, lever.id), ...marks].join(' · ')}</p>
    </div>
  );
}

/** All levers of a board on the bench, wherever viewers find them; put in order by their handles. */
export function LeverColumn(props: Props) {
  const { levers } = props;
  const dispatch = useAppDispatch();
  const onMove = (from: number, to: number) =>
    dispatch(
      edit(tell('bench.leverColumn.theOrderOfLevers'), (draft) => {
        draft.levers = arrayMove(draft.levers, from, to);
      }),
    );
  return (
    <SortList items={levers} onMove={onMove}>
      <LeverRows levers={levers} render={(lever) => <SortableLever {...props} lever={lever} />} />
    </SortList>
  );
}
