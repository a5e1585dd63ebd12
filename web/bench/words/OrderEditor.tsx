import { directions, type Order, orderings } from '@sorvik/core/board/chart';
import { orderText } from '@sorvik/core/words/measure-text';
import { OptionList } from '../../ui/OptionList';
import type { EditorProps } from './editor-kind';

const orders: Order[] = orderings.flatMap((by) =>
  (by === 'value' ? [...directions].reverse() : directions).map((direction) => ({ by, direction })),
);

export function OrderEditor({ chart, words, change }: EditorProps) {
  const chosen = orders.find(
    ({ by, direction }) => by === chart.order.by && direction === chart.order.direction,
  );
  return (
    <OptionList
      label="Order"
      options={orders.map((order) => ({ value: order, text: orderText(order, chart, words) }))}
      chosen={chosen}
      onChoose={(order) =>
        change((draft) => {
          draft.order = order;
        })
      }
    />
  );
}
