import { cloneElement, type ReactElement, useEffect, useRef, useState } from 'react';
import { OverlayTrigger, Tooltip } from 'react-bootstrap';
import type { Placement } from 'react-bootstrap/types';
import { learnt, type OwnWord, useIsKnown } from './own-words';
import { tell } from './tell';

/** So long a sentence is in sight before it counts as read, ms. */
const readingTime = 1500;

interface Props {
  word: OwnWord;
  placement?: Placement;
  children: ReactElement<{ className?: string }>;
}

/**
 * Something that bears one of Sorvik's own words: underlined with dots, and explained when it is pointed at or focused,
 * until that has been read once.
 */
export function Explained({ word, placement = 'bottom', children }: Props) {
  const known = useIsKnown(word);
  const [shown, setShown] = useState(false);
  const since = useRef(0);
  useEffect(() => {
    if (shown) since.current = performance.now();
    else if (since.current && performance.now() - since.current > readingTime) learnt(word);
  }, [shown, word]);
  return (
    <OverlayTrigger
      trigger={['hover', 'focus']}
      placement={placement}
      delay={{ show: 250, hide: 0 }}
      show={shown && !known}
      onToggle={setShown}
      overlay={<Tooltip className="sv-explanation">{tell('ownWord', { word })}</Tooltip>}
    >
      {known
        ? children
        : cloneElement(children, { className: `${children.props.className ?? ''} sv-explained`.trim() })}
    </OverlayTrigger>
  );
}
