import { closestCenter, DndContext, type DragEndEvent, type UniqueIdentifier } from '@dnd-kit/core';
import { arrayMove, SortableContext, useSortable, verticalListSortingStrategy } from '@dnd-kit/sortable';
import type { Board } from '@sorvik/core/board/board';
import type { Lever } from '@sorvik/core/levers/registry';
import { reachText } from '@sorvik/core/words/lever-reach';
import { useAppDispatch } from '../app/store';
import { edit } from '../board/board-slice';
import { LeverGroup } from '../levers/LeverGroup';
import { LeverRows } from '../levers/LeverRows';
import { sortAnnouncements, useSortSensors } from '../ui/sorting';

interface Props {
  board: Board;
  levers: Lever[];
  inHand: string | null;
  spoken: readonly string[];
  onPoint(lever: string | null): void;
  onTake(lever: string | null): void;
}

const placeWords: Record<string, string> = { above: 'above the charts', title: 'in titles' };

function SortableLever({ lever, ...props }: Props & { lever: Lever }) {
  const { board, inHand, spoken, onPoint, onTake } = props;
  const { setNodeRef, setActivatorNodeRef, attributes, listeners, transform, transition, isDragging } =
    useSortable({ id: lever.id });
  const taken = lever.id === inHand;
  const marks = [lever.place && placeWords[lever.place], lever.hidden && 'hidden from viewers'].filter(
    Boolean,
  );
  return (
    <div
      ref={setNodeRef}
      className={[spoken.includes(lever.id) && 'is-spoken', isDragging && 'is-dragged']
        .filter(Boolean)
        .join(' ')}
      style={transform ? { transform: `translate3d(0, ${transform.y}px, 0)`, transition } : undefined}
    >
      <LeverGroup
        lever={lever}
        onPoint={(pointed) => onPoint(pointed ? lever.id : null)}
        handle={
          <button
            type="button"
            ref={setActivatorNodeRef}
            className="sv-drag"
            {...attributes}
            {...listeners}
            aria-label={`Move ${lever.name}`}
            title="Drag to reorder"
          >
            <span aria-hidden="true" />
          </button>
        }
      >
        <button
          type="button"
          className="btn btn-link btn-sm"
          aria-label={`Set up ${lever.name}`}
          aria-pressed={taken}
          onClick={() => onTake(taken ? null : lever.id)}
        >
          set up
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
  const sensors = useSortSensors();
  const onDragEnd = ({ active, over }: DragEndEvent) => {
    if (!over || active.id === over.id) return;
    dispatch(
      edit('the order of levers', (draft) => {
        const from = draft.levers.findIndex(({ id }) => id === active.id);
        const to = draft.levers.findIndex(({ id }) => id === over.id);
        draft.levers = arrayMove(draft.levers, from, to);
      }),
    );
  };
  const nameOf = (id: UniqueIdentifier) => levers.find((lever) => lever.id === id)?.name ?? 'the lever';
  return (
    <DndContext
      sensors={sensors}
      collisionDetection={closestCenter}
      onDragEnd={onDragEnd}
      accessibility={{ announcements: sortAnnouncements(nameOf) }}
    >
      <SortableContext items={levers.map(({ id }) => id)} strategy={verticalListSortingStrategy}>
        <LeverRows levers={levers} render={(lever) => <SortableLever {...props} lever={lever} />} />
      </SortableContext>
    </DndContext>
  );
}
