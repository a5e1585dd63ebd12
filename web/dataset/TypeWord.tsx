import { skipToken } from '@reduxjs/toolkit/query/react';
import type { DatasetView } from '@sorvik/core/board/api-types';
import { type FieldType, fieldTypes } from '@sorvik/core/data/values';
import { english } from '@sorvik/core/words/locale';
import { counted } from '@sorvik/core/words/plural';
import { useState } from 'react';
import { Button } from 'react-bootstrap';
import { problemText } from '../app/api';
import { useRetypeMutation, useRetypePreviewQuery } from '../app/editing-api';
import { Dropped } from '../ui/Dropped';
import { OptionList } from '../ui/OptionList';
import { Problem } from '../ui/Problem';
import { WordTrigger } from '../ui/WordTrigger';

interface Props {
  dataset: DatasetView;
  field: DatasetView['fields'][number];
}

/** Types in words. */
export const typeNames: Record<FieldType, string> = {
  integer: 'whole number',
  decimal: 'number',
  text: 'text',
  boolean: 'yes/no',
  date: 'date',
  datetime: 'date and time',
};

/** The type of a field; before it is changed, what would be lost is counted. */
export function TypeWord({ dataset, field }: Props) {
  const [button, setButton] = useState<HTMLButtonElement | null>(null);
  const [open, setOpen] = useState(false);
  const [wanted, setWanted] = useState(field.type);
  const changed = open && wanted !== field.type;
  const {
    data: preview,
    isFetching,
    error,
  } = useRetypePreviewQuery(
    changed ? { id: dataset.id, key: field.key, type: wanted, version: dataset.version } : skipToken,
  );
  const [retype, { isLoading, error: failure }] = useRetypeMutation();
  const apply = async () => {
    const result = await retype({ id: dataset.id, key: field.key, type: wanted });
    if ('data' in result) setOpen(false);
  };
  return (
    <>
      <WordTrigger
        ref={setButton}
        label={`Type of ${field.name}`}
        text={typeNames[field.type]}
        open={open}
        onClick={() => {
          setWanted(field.type);
          setOpen(!open);
        }}
      />
      <Dropped
        trigger={button}
        show={open}
        title={`Type of ${field.name}`}
        placement="bottom-start"
        onLeave={() => setOpen(false)}
      >
        <OptionList
          label="Type"
          options={fieldTypes.map((value) => ({ value, text: typeNames[value] }))}
          chosen={wanted}
          onChoose={setWanted}
        />
        {changed && (
          <div className="sv-retype">
            {isFetching && <p>Checking which values can be converted…</p>}
            {preview && !isFetching && (
              <>
                <p>
                  {preview.lost === 0 ? (
                    <>All {preview.kept.toLocaleString('en')} values fit; nothing is lost.</>
                  ) : (
                    <>
                      <strong>{preview.lost.toLocaleString('en')}</strong> of{' '}
                      {(preview.kept + preview.lost).toLocaleString('en')} values cannot be converted and will
                      be deleted for good: {preview.examples.map((text) => `"${text}"`).join(', ')}
                    </>
                  )}
                </p>
                <Button
                  size="sm"
                  variant={preview.lost ? 'danger' : 'primary'}
                  disabled={isLoading}
                  onClick={apply}
                >
                  {isLoading
                    ? 'Changing…'
                    : preview.lost
                      ? `Convert and delete ${counted(preview.lost, 'value', english)}`
                      : 'Change'}
                </Button>
              </>
            )}
            {(error || failure) && <Problem>{problemText(error ?? failure)}</Problem>}
          </div>
        )}
      </Dropped>
    </>
  );
}
