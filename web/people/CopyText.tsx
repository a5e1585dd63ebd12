import { useState } from 'react';
import { Button, Form } from 'react-bootstrap';
import { tell } from '../ui/tell';

/** A text that is there to be copied. */
export function CopyText({ label, text }: { label: string; text: string }) {
  const [copied, setCopied] = useState(false);
  return (
    <>
      <Form.Control
        size="sm"
        readOnly
        aria-label={label}
        value={text}
        onFocus={(event) => event.target.select()}
      />
      <Button
        size="sm"
        variant="outline-secondary"
        onClick={() => void navigator.clipboard.writeText(text).then(() => setCopied(true))}
      >
        {copied ? tell('people.copied') : tell('people.copy')}
      </Button>
    </>
  );
}
