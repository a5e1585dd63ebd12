import { useEffect, useId, useState } from 'react';

interface Props {
  label: string;
  /** How the value reads. */
  text: string;
  /** Takes what was typed; returns what is wrong with it, if it cannot be read, at once or a moment later. */
  onType(text: string): string | undefined | Promise<string | undefined>;
  /** Up and down by one step. */
  onStep?(by: 1 | -1): void;
  width?: string;
}

/** A small box to type a value into: Enter or leaving takes it, Esc leaves it as it was. */
export function ValueBox({ label, text, onType, onStep, width }: Props) {
  const [typed, setTyped] = useState<string | null>(null);
  const [wrong, setWrong] = useState<string>();
  const id = useId();
  useEffect(() => {
    if (text) setWrong(undefined);
  }, [text]);
  const take = () => {
    if (typed === null) return;
    if (typed !== text) void Promise.resolve(onType(typed)).then(setWrong);
    else setWrong(undefined);
    setTyped(null);
  };
  return (
    <span className="sv-box">
      <input
        className="form-control form-control-sm"
        aria-label={label}
        aria-invalid={wrong !== undefined}
        aria-describedby={wrong ? id : undefined}
        style={width ? { width } : undefined}
        value={typed ?? text}
        onFocus={(event) => event.currentTarget.select()}
        onChange={(event) => setTyped(event.target.value)}
        onBlur={take}
        onKeyDown={(event) => {
          if (event.key === 'Enter') {
            const input = event.currentTarget;
            take();
            requestAnimationFrame(() => input.select());
          } else if (event.key === 'Escape') {
            const input = event.currentTarget;
            setTyped(null);
            setWrong(undefined);
            requestAnimationFrame(() => input.select());
          } else if (onStep && (event.key === 'ArrowUp' || event.key === 'ArrowDown')) {
            setTyped(null);
            onStep(event.key === 'ArrowUp' ? 1 : -1);
          } else return;
          event.preventDefault();
          event.stopPropagation();
        }}
      />
      {wrong && (
        <small id={id} className="sv-problem" data-part="problem" role="alert">
          {wrong}
        </small>
      )}
    </span>
  );
}
