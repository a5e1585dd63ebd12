import type { DatasetView } from '@sorvik/core/board/api-types';
import type { Board } from '@sorvik/core/board/board';
import { type Dimension, grains } from '@sorvik/core/data/dimension';
import { isTemporal } from '@sorvik/core/data/values';
import { newLever } from '@sorvik/core/edit/defaults';
import { leverKinds } from '@sorvik/core/levers/registry';
import { useState } from 'react';
import { useAppDispatch } from '../app/store';
import { edit } from '../board/board-slice';
import { DropButton } from '../ui/DropButton';
import { OptionList } from '../ui/OptionList';

const dimensionsOf = ({
  key,
  name,
  type,
}: DatasetView['fields'][number]): { dimension: Dimension; text: string }[] =>
  isTemporal(type)
    ? grains.map((grain) => ({ dimension: { field: key, grain }, text: `${name} by ${grain}` }))
    : [{ dimension: { field: key }, text: name }];

/** Names for levers that stand on no field. */
const freeNames: Record<string, string> = {
  number: 'Number',
  switch: 'Switch',
  limits: 'Limits',
  clock: 'Now',
  choice: 'Side',
};

interface Props {
  board: Board;
  dataset: DatasetView;
  onAdded(id: string): void;
}

/** Puts a lever of any kind beside the charts: first what it is, then what it stands on. */
export function AddLever({ board, dataset, onAdded }: Props) {
  const dispatch = useAppDispatch();
  const [kindName, setKindName] = useState('pick');
  const kind = leverKinds.get(kindName);
  const add = (dimension: Dimension | undefined, close: () => void) => {
    const lever = newLever(
      kindName,
      dataset,
      dimension,
      board.levers,
      dimension ? undefined : freeNames[kindName],
    );
    dispatch(edit('a lever', (draft) => void draft.levers.push(lever)));
    close();
    onAdded(lever.id);
  };
  return (
    <DropButton label="+ Lever" title="A new lever" placement="right-start" word="lever">
      {(close) => (
        <div className="sv-two">
          <div>
            <p className="sv-editor-head">What it is</p>
            <OptionList
              label="Kind of lever"
              options={leverKinds.all().map((each) => ({ value: each.kind, text: each.noun }))}
              chosen={kindName}
              onChoose={setKindName}
            />
          </div>
          <div>
            <p className="sv-editor-head">{kind.fits ? 'What it is about' : 'It needs no field'}</p>
            {(!kind.fits || kind.without) && (
              <button
                type="button"
                className="btn btn-sm btn-outline-secondary"
                onClick={() => add(undefined, close)}
              >
                {kind.without ?? 'Add it'}
              </button>
            )}
            {kind.fits && (
              <OptionList
                label="Field"
                options={dataset.fields
                  .filter((field) => kind.fits!(field))
                  .flatMap((field) =>
                    dimensionsOf(field).map(({ dimension, text }) => ({ value: dimension, text })),
                  )}
                chosen={undefined}
                onChoose={(dimension) => add(dimension, close)}
              />
            )}
          </div>
        </div>
      )}
    </DropButton>
  );
}
