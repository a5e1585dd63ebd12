import { isAtStart, positionOf } from '@sorvik/core/levers/positions';
import type { Lever } from '@sorvik/core/levers/registry';
import { leverKinds } from '@sorvik/core/levers/registry';
import { type ReactNode, useId } from 'react';
import { useAppDispatch, useAppSelector } from '../app/store';
import { leverMoved, leverReset } from '../board/positions-slice';
import { controlKinds } from './registry';
import { useListed } from './use-listed';

interface Props {
  lever: Lever;
  /** What stands beside the name on the bench. */
  children?: ReactNode;
  onPoint?: (pointed: boolean) => void;
}

/** One lever as a viewer meets it: its name, where it stands, and its control. */
export function LeverGroup({ lever, children, onPoint }: Props) {
  const dispatch = useAppDispatch();
  const id = useId();
  const position = useAppSelector((state) => positionOf(lever, state.positions));
  const moved = useAppSelector((state) => !isAtStart(lever, state.positions));
  const { values } = useListed(lever);
  const { Control } = controlKinds.get(lever.kind);
  const listed = values?.length;
  return (
    <div
      role="group"
      aria-labelledby={id}
      className="sv-lever"
      data-lever={lever.id}
      onPointerEnter={() => onPoint?.(true)}
      onPointerLeave={() => onPoint?.(false)}
    >
      <div className="sv-lever-head">
        <span id={id} className="sv-lever-name">
          {lever.name}
        </span>
        <span className="sv-lever-summary">
          {listed !== undefined && leverKinds.get(lever.kind).summary(position, listed)}
        </span>
        {moved && (
          <button
            type="button"
            className="btn btn-link btn-sm sv-reset"
            onClick={() => dispatch(leverReset(lever.id))}
            title="Back to its start"
          >
            reset
          </button>
        )}
        {children}
      </div>
      <Control
        lever={lever}
        position={position}
        move={(next) => dispatch(leverMoved({ lever: lever.id, position: next }))}
      />
    </div>
  );
}
