import { Component, type ReactNode } from 'react';

/** Keeps a fault in one part of the page from taking the rest with it, and says so. */
export class Guard extends Component<{ what: string; children: ReactNode }, { failed: boolean }> {
  override state = { failed: false };

  static getDerivedStateFromError() {
    return { failed: true };
  }

  override render() {
    if (!this.state.failed) return this.props.children;
    return (
      <div role="alert" className="sv-problem p-2">
        {this.props.what} could not be drawn. What is saved is not touched.{' '}
        <button type="button" className="btn btn-sm btn-outline-secondary" onClick={() => location.reload()}>
          Load the page again
        </button>
      </div>
    );
  }
}
