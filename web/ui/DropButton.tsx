import { type ReactNode, useState } from 'react';
import type { Placement } from 'react-bootstrap/types';
import { Dropped } from './Dropped';
import { Explained } from './Explained';
import type { OwnWord } from './own-words';

interface Props {
  label: string;
  /** What it is called by those who do not see what it stands beside. */
  name?: string;
  /** The name of what opens. */
  title: string;
  placement: Placement;
  className?: string;
  /** The word of Sorvik's own that it bears, to be explained. */
  word?: OwnWord;
  children(close: () => void): ReactNode;
}

/** A quiet button with a popover: Esc or a press elsewhere closes it. */
export function DropButton({ label, name, title, placement, className = '', word, children }: Props) {
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
      {word ? <Explained word={word}>{trigger}</Explained> : trigger}
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
