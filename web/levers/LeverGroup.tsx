import { kindOf, type Lever } from '@sorvik/core/levers/registry';
import { isAtStart, settledPosition } from '@sorvik/core/levers/settled-positions';
import { type ReactNode, useContext, useId } from 'react';
import { useAppDispatch, useAppSelector } from '../app/store';
import { leverMoved, leversReset } from '../board/positions-slice';
import { useLanguage } from '../ui/language';
import { useKnownFacts } from './facts-context';
import { PositionsContext } from './positions-context';
import { controlKinds } from './registry';

interface Props {
  lever: Lever;
  /** What stands before and beside the name on the bench. */
  handle?: ReactNode;
  children?: ReactNode;
  onPoint?: (pointed: boolean) => void;
}

/** A lever's standing, and how to move it, for whatever shows it. */
export function useLever(lever: Lever) {
  const dispatch = useAppDispatch();
  const { facts, problems } = useKnownFacts();
  const own = useContext(PositionsContext);
  const onBoard = useAppSelector((state) => state.positions.now);
  const now = own?.now ?? onBoard;
  const { locale, say } = useLanguage();
  const unread = useAppSelector((state) => state.positions.unread.includes(lever.id));
  const { position, notice } = settledPosition(lever, now, facts);
  return {
    position,
    facts: facts[lever.id],
    problem: problems[lever.id],
    notice: unread ? say('lever.badLink') : notice?.(locale),
    moved: !isAtStart(lever, now, facts),
    move: (next: unknown, passing = false) =>
      own ? own.move(lever.id, next) : dispatch(leverMoved({ lever: lever.id, position: next, passing })),
    reset: () => (own ? own.reset(lever.id) : dispatch(leversReset([lever.id]))),
  };
}

/** One lever as a viewer meets it: its name, where it stands, and its control. */
export function LeverGroup({ lever, handle, children, onPoint }: Props) {
  const id = useId();
  const { locale, say } = useLanguage();
  const { position, facts, problem, notice, moved, move, reset } = useLever(lever);
  const { Control, tells } = controlKinds.get(lever.kind);
  return (
    <div
      role="group"
      aria-labelledby={id}
      className="sv-lever"
      data-lever={lever.id}
      data-kind={lever.kind}
      onPointerEnter={() => onPoint?.(true)}
      onPointerLeave={() => onPoint?.(false)}
      onFocus={() => onPoint?.(true)}
      onBlur={() => onPoint?.(false)}
    >
      <div className="sv-lever-head">
        {handle}
        <span id={id} className="sv-lever-name" data-part="lever-name">
          {lever.name}
        </span>
        {moved && (
          <span className="sv-moved" role="img" aria-label={say('lever.moved')} title={say('lever.moved')} />
        )}
        <span className="sv-lever-summary">
          {tells ? '' : kindOf(lever).summary(lever, position, facts, locale)}
        </span>
        {moved && (
          <button
            type="button"
            className="btn btn-link btn-sm sv-reset"
            onClick={reset}
            aria-label={say('lever.resetNamed', { lever: lever.name })}
            title={say('lever.toStart')}
          >
            {say('lever.reset')}
          </button>
        )}
        {children}
      </div>
      <Control lever={lever} position={position} facts={facts} problem={problem} move={move} />
      {notice && (
        <p className="sv-notice" role="status">
          {notice}
        </p>
      )}
    </div>
  );
}
