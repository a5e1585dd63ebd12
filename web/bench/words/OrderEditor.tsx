import { byOwnValues, directions, type Order, orderings } from '@sorvik/core/board/order';
import { orderText, seriesOrderText } from '@sorvik/core/words/measure-text';
import { OptionList } from '../../ui/OptionList';
import { tell } from '../../ui/tell';
import type { EditorProps } from './editor-kind';

const orders: Order[] = orderings.flatMap((by) =>
  (by === 'value' ? [...directions].reverse() : directions).map((direction) => ({ by, direction })),
);

interface OrdersProps {
  label: string;
  now: Order;
  text(order: Order): string;
  onChoose(order: Order): void;
}

const Orders = ({ label, now, text, onChoose }: OrdersProps) => (
  <OptionList
    label={label}
    options={orders.map((order) => ({ value: order, text: text(order) }))}
    chosen={orders.find(({ by, direction }) => by === now.by && direction === now.direction)}
    onChoose={onChoose}
  />
);

export const OrderEditor = ({ chart, words, change }: EditorProps) => (
  <Orders
    label={tell('bench.orderEditor.order')}
    now={chart.order}
    text={(order) => orderText(order, chart.by, words)}
    onChoose={(order) =>
      change((draft) => {
        draft.order = order;
      })
    }
  />
);

/** The order of the series: on the plot, in stacks and in the legend. */
export const SeriesOrderEditor = ({ chart, words, change }: EditorProps) =>
  chart.split && (
    <Orders
      label={tell('bench.orderEditor.orderOfSeries')}
      now={chart.split.order ?? byOwnValues}
      text={(order) => seriesOrderText(order, chart.split!, words)}
      onChoose={(order) =>
        change((draft) => {
          draft.split!.order = order;
        })
      }
    />
  );
