import type { LinkView } from '@sorvik/core/board/api-types';
import { tell } from '../ui/tell';
import { momentText } from '../ui/time-text';
import { CopyText } from './CopyText';

/** A link that works once, to be sent to somebody. */
export function NewLink({ link: { path, endsAt }, label }: { link: LinkView; label: string }) {
  return (
    <div className="sv-new-link" role="status">
      <CopyText label={label} text={new URL(path, location.href).href} />
      <p className="sv-hint">{tell('people.linkUntil', { time: momentText(endsAt) })}</p>
    </div>
  );
}
