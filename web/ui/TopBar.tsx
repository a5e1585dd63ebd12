import type { ReactNode } from 'react';
import { Link } from 'react-router';
import { useGround } from '../app/theme';
import { tell } from '../ui/tell';

interface Props {
  /** What stands after the name of the application. */
  place?: ReactNode;
  children?: ReactNode;
}

export function TopBar({ place, children }: Props) {
  const [ground, turn] = useGround();
  return (
    <header className="sv-topbar">
      <Link to="/" className="sv-home">
        {tell('ui.topBar.sorvik')}
      </Link>
      {place && <span className="sv-slash">/</span>}
      <div className="sv-place">{place}</div>
      <div className="sv-actions">
        {children}
        <button type="button" className="btn btn-sm btn-quiet" onClick={turn}>
          {ground === 'light' ? tell('ui.topBar.darkTheme') : tell('ui.topBar.lightTheme')}
        </button>
      </div>
    </header>
  );
}
