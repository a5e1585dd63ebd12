import type { SwitchLever } from '@sorvik/core/levers/switch';
import type { ControlProps } from '../control-kind';

/** On or off, in the author's two words. */
export function SwitchControl({ lever, position, move }: ControlProps<SwitchLever, boolean>) {
  return (
    <button
      type="button"
      role="switch"
      aria-checked={position}
      aria-label={`${lever.name}: ${position ? lever.on : lever.off}`}
      className="sv-switch"
      onClick={() => move(!position)}
    >
      <span className="sv-switch-track" aria-hidden="true">
        <span />
      </span>
      <span>{position ? lever.on : lever.off}</span>
    </button>
  );
}
