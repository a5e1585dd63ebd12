import type { DatasetView } from '@sorvik/core/board/api-types';
import { english } from '@sorvik/core/messages/locale';
import { listed } from '@sorvik/core/words/plural';
import { problemText } from '../app/api';
import { useDropFieldMutation, useFieldUsesQuery } from '../app/editing-api';
import { DropButton } from '../ui/DropButton';
import { Problem } from '../ui/Problem';
import { tell } from '../ui/tell';

interface Props {
  dataset: DatasetView;
  field: DatasetView['fields'][number];
}

function Asked({ dataset, field, onClose }: Props & { onClose(): void }) {
  const { data: uses, error } = useFieldUsesQuery(
    { id: dataset.id, key: field.key },
    { refetchOnMountOrArgChange: true },
  );
  const [drop, { isLoading, error: failure }] = useDropFieldMutation();
  if (error || failure) return <Problem>{problemText(error ?? failure)}</Problem>;
  if (!uses) return <p>{tell('dataset.dropField.checkingWhereItIsUsed')}</p>;
  if (uses.fields.length)
    return (
      <p>
        {tell('dataset.dropField.computedFromIt', {
          n: uses.fields.length,
          fields: listed(uses.fields, english, 5),
          field: field.name,
        })}
      </p>
    );
  return (
    <>
      <p>
        {uses.boards.length
          ? tell('dataset.dropField.usedOnBoardsChartsThere', {
              boards: listed(
                uses.boards.map(({ title }) => title),
                english,
                5,
              ),
            })
          : tell('dataset.dropField.notUsedOnAnyBoard')}
      </p>
      <button
        type="button"
        className={`btn btn-sm ${uses.boards.length ? 'btn-danger' : 'btn-primary'}`}
        disabled={isLoading}
        onClick={async () => {
          const result = await drop({ id: dataset.id, key: field.key });
          if ('data' in result) onClose();
        }}
      >
        {tell('dataset.dropField.deleteField', { field: field.name })}
      </button>
    </>
  );
}

/** Deletes a computed field, once it has been said what names it. */
export function DropField(props: Props) {
  return (
    <DropButton
      label={tell('dataset.dropField.delete')}
      name={tell('dataset.dropField.deleteField', { field: props.field.name })}
      title={tell('dataset.dropField.deleteField', { field: props.field.name })}
      placement="bottom-end"
    >
      {(close) => (
        <div className="sv-asked">
          <Asked {...props} onClose={close} />
        </div>
      )}
    </DropButton>
  );
}
