import { leverKinds } from '@sorvik/core/levers/registry';
import { stars } from '@sorvik/core/testing/stars-lever';
import { renderToStaticMarkup } from 'react-dom/server';
import { expect, it } from 'vitest';
import { StarsControl } from '../testing/StarsControl';
import { controlKinds } from './registry';
import { setUpKinds } from './setups/registry';

it.each([
  ['control', controlKinds],
  ['set-up', setUpKinds],
])('each kind of lever has a %s', (_what, registry) => {
  expect(registry.names().sort()).toEqual(leverKinds.names().sort());
});

it('the control of the worked example shows where its lever stands', () => {
  const lever = stars.make({ id: 'rating', name: 'Rating', dataset: {} as never });
  const props = { lever, position: 2, facts: undefined, problem: undefined, move: () => undefined };
  const drawn = renderToStaticMarkup(<StarsControl {...props} />);
  expect(drawn.match(/checked=""/g)).toHaveLength(1);
  expect(drawn).toContain('aria-label="2 stars"');
  expect(drawn.match(/★/g)).toHaveLength(2);
});
