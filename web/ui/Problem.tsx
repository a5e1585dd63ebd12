import type { ReactNode } from 'react';

/** What went wrong, in words; `role="alert"` where it comes while somebody is at work. */
export const Problem = ({ role, children }: { role?: 'alert'; children: ReactNode }) => (
  <p className="sv-problem" data-part="problem" role={role}>
    {children}
  </p>
);
