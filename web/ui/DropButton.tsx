import { type ReactElement, type ReactNode, useState } from 'react';
import type { Placement } from 'react-bootstrap/types';
import { Dropped } from './Dropped';

interface Props {
  label: string;
  /** What it is called by those who do not see what it stands beside. */
  name?: string;
  /** The name of what opens. */
  title: string;
  placement: Placement;
  className?: string;
  /** Puts something around the button, such as an explanation of its word. */
  around?(button: ReactElement<{ className?: string }>): ReactNode;
  children(close: () => void): ReactNode;
}

/** A quiet button with a popover: Esc or a press elsewhere closes it. */
export function DropButton({ label, name, title, placement, className = '', around, children }: Props) {
  const [button, setButton] = useState<HTMLButtonElement | null>(null);
  const [open, setOpen] = useState(false);
  const close = () => {
    button?.focus();
    setOpen(false);
  };
  const trigger = (
    <button
      type="button"
      ref={setButton}
      className={`btn btn-sm btn-quiet ${className}`}
      aria-label={name}
      aria-haspopup="dialog"
      aria-expanded={open}
      onClick={() => setOpen(!open)}
    >
      {label}
    </button>
  );
  return (
    <>
      {around ? around(trigger) : trigger}
      <Dropped
        trigger={button}
        show={open}
        title={title}
        placement={placement}
        onLeave={() => setOpen(false)}
      >
        {children(close)}
      </Dropped>
    </>
  );
}
