import { type ReactNode, useState } from 'react';
import { Overlay, Popover } from 'react-bootstrap';
import type { Placement } from 'react-bootstrap/types';

interface Props {
  label: string;
  /** What it is called by those who do not see what it stands beside. */
  name?: string;
  /** The name of what opens. */
  title: string;
  placement: Placement;
  className?: string;
  children(close: () => void): ReactNode;
}

/** A quiet button with a popover: Esc or a press elsewhere closes it. */
export function DropButton({ label, name, title, placement, className = '', children }: Props) {
  const [button, setButton] = useState<HTMLButtonElement | null>(null);
  const [open, setOpen] = useState(false);
  const close = () => setOpen(false);
  return (
    <>
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
      <Overlay target={button} show={open} placement={placement} rootClose onHide={close} transition={false}>
        <Popover className="sv-editor" role="dialog" aria-label={title}>
          {/* biome-ignore lint/a11y/noStaticElementInteractions: Esc is caught on its way out */}
          <div
            onKeyDown={(event) => {
              if (event.key !== 'Escape') return;
              close();
              button?.focus();
            }}
          >
            {children(close)}
          </div>
        </Popover>
      </Overlay>
    </>
  );
}
