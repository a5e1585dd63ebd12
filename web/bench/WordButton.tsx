import { chartOf } from '@sorvik/core/board/board';
import { isNamedColour, isValueColour, type Look, seriesColour } from '@sorvik/core/board/look';
import { cssColour } from '@sorvik/core/pipeline/value-colour';
import { type CSSProperties, useEffect, useRef, useState } from 'react';
import { useAppDispatch } from '../app/store';
import { edit, tryBegun, tryDropped, tryKept } from '../board/board-slice';
import { Dropped } from '../ui/Dropped';
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
  const [button, setButton] = useState<HTMLButtonElement | null>(null);
  const kind = editorKinds.get(word.slot);
  const { Editor } = kind;
  const label = word.label ?? kind.label;

  const begin = () => {
    dispatch(tryBegun());
    setOpen(true);
  };
  const end = (keep: boolean) => {
    dispatch((keep ? tryKept : tryDropped)(label.toLowerCase()));
    setOpen(false);
  };

  // Another chart taken in hand takes the word away with its editor open: what was tried is kept.
  const isOpen = useRef(false);
  isOpen.current = open;
  useEffect(
    () => () => {
      if (isOpen.current) dispatch(tryKept(label.toLowerCase()));
    },
    [dispatch, label],
  );

  const trigger = (
    <WordTrigger
      ref={setButton}
      label={label}
      text={word.text}
      open={open}
      data-slot={word.slot}
      {...(word.slot === 'look' ? { 'data-look': dressOf(word.value) } : {})}
      onClick={() => (open ? end(true) : begin())}
    >
      {word.slot === 'look' && (
        <span className="sv-look-dot" aria-hidden="true" style={ownLook(word.value)} />
      )}
    </WordTrigger>
  );
  return (
    <>
      {kind.word ? <Explained word={kind.word}>{trigger}</Explained> : trigger}
      <Dropped
        trigger={button}
        show={open}
        title={label}
        placement="top-start"
        endsOnEnter
        onLeave={(how) => open && end(how !== 'escape')}
      >
        <TypedPlace value={`${location.pathname} ${chart.id} ${props.sentence.id} ${word.slot} ${word.path}`}>
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
      </Dropped>
    </>
  );
}
