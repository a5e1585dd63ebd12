import { english, type Locale } from '@sorvik/core/messages/locale';
import { Component, type ReactNode } from 'react';
import { say } from './say';

interface Props {
  what: string;
  children: ReactNode;
  locale?: Locale;
}

/** Keeps a fault in one part of the page from taking the rest with it, and says so. */
export class Guard extends Component<Props, { failed: boolean }> {
  override state = { failed: false };

  static getDerivedStateFromError() {
    return { failed: true };
  }

  override render() {
    if (!this.state.failed) return this.props.children;
    return (
      <div role="alert" className="sv-problem p-2">
        {say(this.props.locale ?? english, 'guard.failed', { what: this.props.what })}{' '}
        <button type="button" className="btn btn-sm btn-outline-secondary" onClick={() => location.reload()}>
          {say(this.props.locale ?? english, 'guard.again')}
        </button>
      </div>
    );
  }
}
