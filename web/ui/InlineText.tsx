import { useEffect, useState } from 'react';

interface Props {
  value: string;
  label: string;
  className?: string;
  /** Shown while it is empty. */
  placeholder?: string;
  /** An empty text is kept instead of being refused. */
  mayBeEmpty?: boolean;
  onKeep(value: string): void;
}

/** A text that is edited where it stands: Enter or leaving keeps it, Esc takes it back. */
export function InlineText({ value, label, className = '', placeholder, mayBeEmpty = false, onKeep }: Props) {
  const [text, setText] = useState(value);
  useEffect(() => setText(value), [value]);
  const keep = () => {
    const next = text.trim();
    if (next === value) return;
    if (next || mayBeEmpty) onKeep(next);
    else setText(value);
  };
  return (
    <input
      className={`sv-inline ${className}`}
      aria-label={label}
      placeholder={placeholder}
      value={text}
      maxLength={200}
      size={Math.max(6, Math.min(60, (text || placeholder || '').length + 1))}
      onChange={(event) => setText(event.target.value)}
      onBlur={keep}
      onKeyDown={(event) => {
        if (event.key === 'Enter') keep();
        if (event.key === 'Escape') {
          setText(value);
          event.stopPropagation();
        }
      }}
    />
  );
}
