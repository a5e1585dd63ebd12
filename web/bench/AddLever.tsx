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
import { Explained } from '../ui/Explained';
import { OptionList } from '../ui/OptionList';
import { tell } from '../ui/tell';

const dimensionsOf = ({
  key,
  name,
  type,
}: DatasetView['fields'][number]): { dimension: Dimension; text: string }[] =>
  isTemporal(type)
    ? grains.map((grain) => ({
        dimension: { field: key, grain },
        text: tell('bench.addLever.nameByGrain', { name, grain }),
      }))
    : [{ dimension: { field: key }, text: name }];

/** Names for levers that stand on no field. */
const freeNames: Record<string, string> = {
  number: tell('bench.addLever.number'),
  switch: tell('bench.addLever.switch'),
  limits: tell('bench.addLever.limits'),
  clock: tell('bench.addLever.now'),
  choice: tell('bench.addLever.side'),
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
    dispatch(edit(tell('bench.addLever.aLever'), (draft) => void draft.levers.push(lever)));
    close();
    onAdded(lever.id);
  };
  return (
    <DropButton
      label={tell('bench.addLever.lever')}
      title={tell('bench.addLever.aNewLever')}
      placement="right-start"
      around={(button) => <Explained word="lever">{button}</Explained>}
    >
      {(close) => (
        <div className="sv-two">
          <div>
            <p className="sv-editor-head">{tell('bench.addLever.whatItIs')}</p>
            <OptionList
              label={tell('bench.addLever.kindOfLever')}
              options={leverKinds.all().map((each) => ({ value: each.kind, text: each.noun }))}
              chosen={kindName}
              onChoose={setKindName}
            />
          </div>
          <div>
            <p className="sv-editor-head">
              {kind.fits ? tell('bench.addLever.whatItIsAbout') : tell('bench.addLever.itNeedsNoField')}
            </p>
            {(!kind.fits || kind.without) && (
              <button
                type="button"
                className="btn btn-sm btn-outline-secondary"
                onClick={() => add(undefined, close)}
              >
                {kind.without ?? tell('bench.addLever.addIt')}
              </button>
            )}
            {kind.fits && (
              <OptionList
                label={tell('bench.addLever.field')}
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
