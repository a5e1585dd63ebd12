/** What a key event tells, of the page or of React. */
interface KeyPress {
  key: string;
  altKey: boolean;
  ctrlKey: boolean;
  metaKey: boolean;
}

export interface StepRules {
  /** Where the down arrow leads: on in a list, back on a slider. */
  down: 'on' | 'back';
  /** How many steps Page Up and Page Down are worth; left out, they are other keys. */
  page?: number;
  /** Home and End belong to the text that is typed beside the list. */
  typing?: true;
}

/** How many steps Page Up and Page Down are worth on a slider: a tenth of it. The plot and the lever go by the same. */
export const pageSteps = ({ min, max, step }: { min: number; max: number; step: number }): number =>
  Math.max(1, Math.round((max - min) / 10 / step));

/**
 * How many steps a key moves on, or back where it is negative; endless for Home and End. Undefined for any other key,
 * and together with Alt, Ctrl or Meta.
 */
export function arrowStep(press: KeyPress, { down, page, typing }: StepRules): number | undefined {
  if (press.altKey || press.ctrlKey || press.metaKey) return undefined;
  const on = down === 'on' ? 1 : -1;
  switch (press.key) {
    case 'ArrowDown':
      return on;
    case 'ArrowUp':
      return -on;
    case 'ArrowRight':
      return typing ? undefined : 1;
    case 'ArrowLeft':
      return typing ? undefined : -1;
    case 'PageDown':
      return page === undefined ? undefined : on * page;
    case 'PageUp':
      return page === undefined ? undefined : -on * page;
    case 'Home':
      return typing ? undefined : Number.NEGATIVE_INFINITY;
    case 'End':
      return typing ? undefined : Number.POSITIVE_INFINITY;
    default:
      return undefined;
  }
}
