import { expect, it } from 'vitest';
import { agentText } from './agent-text';

it.each([
  ['Mozilla/5.0 (X11; Linux x86_64; rv:145.0) Gecko/20100101 Firefox/145.0', 'Firefox on Linux'],
  [
    'Mozilla/5.0 (Windows NT 10.0; Win64; x64) AppleWebKit/537.36 (KHTML, like Gecko) Chrome/142.0.0.0 Safari/537.36 Edg/142.0',
    'Edge on Windows',
  ],
  [
    'Mozilla/5.0 (iPhone; CPU iPhone OS 19_0 like Mac OS X) AppleWebKit/605.1.15 (KHTML, like Gecko) Version/19.0 Mobile/15E148 Safari/604.1',
    'Safari on iOS',
  ],
  ['curl/8.5.0', 'another program'],
  ['', 'another program'],
])('says of %s what it is', (agent, text) => {
  expect(agentText(agent)).toBe(text);
});
