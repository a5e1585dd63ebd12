import { skipToken } from '@reduxjs/toolkit/query/react';
import type { DatasetView } from '@sorvik/core/board/api-types';
import { type FieldType, fieldTypes } from '@sorvik/core/data/values';
import { english } from '@sorvik/core/messages/locale';
import { counted } from '@sorvik/core/words/plural';
import { useState } from 'react';
import { Button } from 'react-bootstrap';
import { problemText } from '../app/api';
import { useRetypeMutation, useRetypePreviewQuery } from '../app/editing-api';
import { Dropped } from '../ui/Dropped';
import { OptionList } from '../ui/OptionList';
import { Problem } from '../ui/Problem';
import { tell } from '../ui/tell';
import { WordTrigger } from '../ui/WordTrigger';

interface Props {
  dataset: DatasetView;
  field: DatasetView['fields'][number];
}

/** Types in words. */
export const typeNames: Record<FieldType, string> = {
  integer: tell('dataset.typeWord.wholeNumber'),
  decimal: 'number',
  text: tell('dataset.typeWord.text'),
  boolean: 'yes/no',
  date: 'date',
  datetime: tell('dataset.typeWord.dateAndTime'),
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
        label={tell('dataset.typeWord.typeOfField', { field: field.name })}
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
        title={tell('dataset.typeWord.typeOfField', { field: field.name })}
        placement="bottom-start"
        onLeave={() => setOpen(false)}
      >
        <OptionList
          label={tell('dataset.typeWord.type')}
          options={fieldTypes.map((value) => ({ value, text: typeNames[value] }))}
          chosen={wanted}
          onChoose={setWanted}
        />
        {changed && (
          <div className="sv-retype">
            {isFetching && <p>{tell('dataset.typeWord.checkingWhichValuesCanBe')}</p>}
            {preview && !isFetching && (
              <>
                <p>
                  {preview.lost === 0
                    ? tell('dataset.typeWord.allKeptValuesFitNothing', { kept: preview.kept })
                    : tell('dataset.typeWord.someCannotBeConverted', {
                        lost: preview.lost,
                        all: preview.kept + preview.lost,
                        examples: preview.examples.map((text) => `"${text}"`).join(', '),
                      })}
                </p>
                <Button
                  size="sm"
                  variant={preview.lost ? 'danger' : 'primary'}
                  disabled={isLoading}
                  onClick={apply}
                >
                  {isLoading
                    ? tell('dataset.typeWord.changing')
                    : preview.lost
                      ? tell('dataset.typeWord.convertAndDeleteLost', {
                          lost: counted(preview.lost, 'value', english),
                        })
                      : tell('dataset.typeWord.change')}
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
