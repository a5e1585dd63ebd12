import type { ComponentProps } from 'react';

interface Props extends ComponentProps<'button'> {
  /** What is being chosen, and how it reads now. */
  label: string;
  text: string;
  open: boolean;
}

/** A word that reads as what is chosen, and opens the editor that changes it. */
export function WordTrigger({ label, text, open, children, className = '', ...more }: Props) {
  return (
    <button
      type="button"
      className={`sv-word ${className}`.trim()}
      aria-haspopup="dialog"
      aria-expanded={open}
      aria-label={`${label}: ${text}`}
      {...more}
    >
      {children}
      {text}
    </button>
  );
}
