import type { LinkView } from '@sorvik/core/board/api-types';
import { useState } from 'react';
import { Button, Form } from 'react-bootstrap';
import { tell } from '../ui/tell';
import { momentText } from '../ui/time-text';

/** A link that works once, to be sent to somebody. */
export function NewLink({ link: { path, endsAt }, label }: { link: LinkView; label: string }) {
  const [copied, setCopied] = useState(false);
  const address = new URL(path, location.href).href;
  return (
    <div className="sv-new-link" role="status">
      <Form.Control
        size="sm"
        readOnly
        aria-label={label}
        value={address}
        onFocus={(event) => event.target.select()}
      />
      <Button
        size="sm"
        variant="outline-secondary"
        onClick={() => void navigator.clipboard.writeText(address).then(() => setCopied(true))}
      >
        {copied ? tell('people.copied') : tell('people.copy')}
      </Button>
      <p className="sv-hint">{tell('people.linkUntil', { time: momentText(endsAt) })}</p>
    </div>
  );
}
