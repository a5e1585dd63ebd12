import type { DatasetView } from '@sorvik/core/board/api-types';
import { english } from '@sorvik/core/words/locale';
import { listed } from '@sorvik/core/words/plural';
import { problemText } from '../app/api';
import { useDropFieldMutation, useFieldUsesQuery } from '../app/editing-api';
import { DropButton } from '../ui/DropButton';
import { Problem } from '../ui/Problem';

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
  if (!uses) return <p>Checking where it is used…</p>;
  if (uses.fields.length)
    return (
      <p>
        {listed(uses.fields, english, 5)} {uses.fields.length === 1 ? 'is' : 'are'} computed from {field.name}
        . Change or delete {uses.fields.length === 1 ? 'it' : 'them'} first.
      </p>
    );
  return (
    <>
      <p>
        {uses.boards.length
          ? `Used on ${listed(
              uses.boards.map(({ title }) => title),
              english,
              5,
            )}. Charts there will say that the field is missing.`
          : 'Not used on any board or in any other field.'}
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
        Delete {field.name}
      </button>
    </>
  );
}

/** Deletes a computed field, once it has been said what names it. */
export function DropField(props: Props) {
  return (
    <DropButton
      label="Delete"
      name={`Delete ${props.field.name}`}
      title={`Delete ${props.field.name}`}
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
