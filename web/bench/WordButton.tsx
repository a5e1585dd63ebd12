import { chartOf } from '@sorvik/core/board/board';
import { isNamedColour, isValueColour, type Look, seriesColour } from '@sorvik/core/board/look';
import { cssColour } from '@sorvik/core/pipeline/value-colour';
import { type CSSProperties, type KeyboardEvent, useEffect, useRef, useState } from 'react';
import { Overlay, Popover } from 'react-bootstrap';
import { useAppDispatch } from '../app/store';
import { edit, tryBegun, tryDropped, tryKept } from '../board/board-slice';
import { Explained } from '../ui/Explained';
import { TypedPlace } from '../ui/typed-before';
import { WordTrigger } from '../ui/WordTrigger';
import type { EditorProps } from './words/editor-kind';
import { editorKinds } from './words/registry';

/** The dot before a look shows a colour of the author's own. */
const ownLook = (look: unknown): CSSProperties | undefined => {
  const { colour } = (look ?? {}) as Look;
  if (isValueColour(colour))
    return {
      background: `linear-gradient(90deg, ${cssColour(colour.below)} 50%, ${cssColour(colour.above)} 50%)`,
    };
  return colour && colour !== seriesColour && !isNamedColour(colour) ? { background: colour } : undefined;
};

/** The words by which the theme dresses a look. */
const dressOf = (look: unknown): string => {
  const { colour, outline, hatch, weight } = (look ?? {}) as Look;
  return [isNamedColour(colour) && colour, outline && 'outline', hatch && 'hatch', weight]
    .filter(Boolean)
    .join(' ');
};

/**
 * A word that opens its editor in place. All that the editor does is one try: Esc takes it back as a whole, Enter or
 * turning elsewhere keeps it as one step.
 */
export function WordButton(props: Omit<EditorProps, 'change'>) {
  const { chart, word } = props;
  const dispatch = useAppDispatch();
  const [open, setOpen] = useState(false);
  const button = useRef<HTMLButtonElement>(null);
  const body = useRef<HTMLDivElement>(null);
  const kind = editorKinds.get(word.slot);
  const { Editor } = kind;
  const label = word.label ?? kind.label;

  const begin = () => {
    dispatch(tryBegun());
    setOpen(true);
  };
  const end = (keep: boolean, refocus: boolean) => {
    dispatch((keep ? tryKept : tryDropped)(label.toLowerCase()));
    setOpen(false);
    if (refocus) button.current?.focus();
  };
  useEffect(() => {
    if (!open) return;
    body.current
      ?.querySelector<HTMLElement>('.cm-content, input, [role=radio][aria-checked=true], [role=radio]')
      ?.focus();
  }, [open]);

  // Another chart taken in hand takes the word away with its editor open: what was tried is kept.
  const isOpen = useRef(false);
  isOpen.current = open;
  useEffect(
    () => () => {
      if (isOpen.current) dispatch(tryKept(label.toLowerCase()));
    },
    [dispatch, label],
  );

  const onKeyDown = (event: KeyboardEvent) => {
    // An editor of formulas has its own use for some keys, while it offers something.
    if (event.defaultPrevented) return;
    if (event.key === 'Escape') end(false, true);
    else if (event.key === 'Enter' && !(event.target instanceof HTMLTextAreaElement)) end(true, true);
    else return;
    event.preventDefault();
    event.stopPropagation();
  };
  const trigger = (
    <WordTrigger
      ref={button}
      label={label}
      text={word.text}
      open={open}
      data-slot={word.slot}
      {...(word.slot === 'look' ? { 'data-look': dressOf(word.value) } : {})}
      onClick={() => (open ? end(true, true) : begin())}
    >
      {word.slot === 'look' && (
        <span className="sv-look-dot" aria-hidden="true" style={ownLook(word.value)} />
      )}
    </WordTrigger>
  );
  return (
    <>
      {kind.word ? <Explained word={kind.word}>{trigger}</Explained> : trigger}
      <Overlay
        target={button.current}
        show={open}
        placement="top-start"
        rootClose
        rootCloseEvent="mousedown"
        // Esc is heard by the editor itself, which may have a use of its own for it.
        onHide={(event) => open && !(event instanceof globalThis.KeyboardEvent) && end(true, false)}
        transition={false}
      >
        <Popover className="sv-editor" role="dialog" aria-label={label}>
          {/* biome-ignore lint/a11y/noStaticElementInteractions: Esc and Enter are caught on their way out of the editor */}
          <div ref={body} onKeyDown={onKeyDown}>
            <TypedPlace
              value={`${location.pathname} ${chart.id} ${props.sentence.id} ${word.slot} ${word.path}`}
            >
              <Editor
                {...props}
                change={(recipe) =>
                  dispatch(
                    edit(label.toLowerCase(), (board) => {
                      const draft = chartOf(board, chart.id);
                      if (draft) recipe(draft, board);
                    }),
                  )
                }
              />
            </TypedPlace>
          </div>
        </Popover>
      </Overlay>
    </>
  );
}
