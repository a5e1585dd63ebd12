import type { Lever } from '@sorvik/core/levers/registry';
import { Fragment, type ReactNode } from 'react';

/** Levers in their order, those that follow each other in one group under its heading. */
export function LeverRows({ levers, render }: { levers: Lever[]; render(lever: Lever): ReactNode }) {
  return levers.map((lever, i) => (
    <Fragment key={lever.id}>
      {lever.group && lever.group !== levers[i - 1]?.group && (
        <h2 className="sv-lever-group">{lever.group}</h2>
      )}
      {render(lever)}
    </Fragment>
  ));
}
