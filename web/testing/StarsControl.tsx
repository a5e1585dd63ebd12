import type { StarsLever } from '@sorvik/core/testing/stars-lever';
import type { ControlProps } from '../levers/control-kind';

/** As many stars as there are, to choose one of; by keyboard with the arrows, as with any radio buttons. */
export function StarsControl({ lever, position, move }: ControlProps<StarsLever, number>) {
  return (
    <fieldset aria-label={lever.name}>
      {Array.from({ length: lever.most }, (_, i) => i + 1).map((count) => (
        <label key={count}>
          <input
            type="radio"
            name={lever.id}
            checked={count === position}
            aria-label={count === 1 ? '1 star' : `${count} stars`}
            onChange={() => move(count)}
          />
          <span aria-hidden="true">{count <= position ? '★' : '☆'}</span>
        </label>
      ))}
    </fieldset>
  );
}
