import { useLanguage } from './language';

interface Props {
  /** Where one can go, by the id of what is there, in the order of the page. */
  to: readonly { id: string; text: string }[];
}

/** The first things that Tab reaches, seen while they have the focus: straight to a part of the page. */
export function SkipLinks({ to }: Props) {
  const { say } = useLanguage();
  return (
    <nav className="sv-skip" aria-label={say('skip.page')}>
      {to.map(({ id, text }) => (
        <a
          key={id}
          className="visually-hidden-focusable"
          href={`#${id}`}
          onClick={(event) => {
            // The address holds where levers are: it stays as it is.
            event.preventDefault();
            document.getElementById(id)?.focus();
          }}
        >
          {text}
        </a>
      ))}
    </nav>
  );
}
