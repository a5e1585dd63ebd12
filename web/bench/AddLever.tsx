import type { Board } from '@sorvik/core/board/board';
import { pickLeverFor } from '@sorvik/core/board/defaults';
import type { DatasetView } from '@sorvik/core/exchange';
import { type FieldCut, grains } from '@sorvik/core/grain';
import { isTemporal } from '@sorvik/core/values';
import { useState } from 'react';
import { Overlay, Popover } from 'react-bootstrap';
import { useAppDispatch } from '../app/store';
import { edit } from '../board/board-slice';
import { OptionList } from '../ui/OptionList';

const cutsOf = ({ key, name, type }: DatasetView['fields'][number]): { cut: FieldCut; text: string }[] =>
  isTemporal(type)
    ? grains.map((grain) => ({
        cut: { field: key, grain },
        text: `${name} by ${grain}`,
      }))
    : [{ cut: { field: key }, text: name }];

/** Puts a pick lever on any field beside the charts. */
export function AddLever({
  board,
  dataset,
  onAdded,
}: {
  board: Board;
  dataset: DatasetView;
  onAdded(id: string): void;
}) {
  const dispatch = useAppDispatch();
  const [button, setButton] = useState<HTMLButtonElement | null>(null);
  const [open, setOpen] = useState(false);
  const add = (cut: FieldCut) => {
    const lever = pickLeverFor(dataset, cut, board.levers);
    dispatch(edit('a lever', (draft) => void draft.levers.push(lever)));
    setOpen(false);
    onAdded(lever.id);
  };
  return (
    <>
      <button
        type="button"
        ref={setButton}
        className="btn btn-sm btn-quiet"
        aria-haspopup="dialog"
        aria-expanded={open}
        onClick={() => setOpen(!open)}
      >
        + lever
      </button>
      <Overlay
        target={button}
        show={open}
        placement="right-start"
        rootClose
        onHide={() => setOpen(false)}
        transition={false}
      >
        <Popover className="sv-editor" role="dialog" aria-label="A lever that picks values of">
          <p className="sv-editor-head">A lever that picks values of</p>
          <OptionList
            label="Field"
            options={dataset.fields.flatMap((field) =>
              cutsOf(field).map(({ cut, text }) => ({ value: cut, text })),
            )}
            chosen={undefined}
            onChoose={add}
          />
        </Popover>
      </Overlay>
    </>
  );
}
