import { tell } from '../ui/tell';

/** Browsers name those that they are like: the first of these that is named is the one. */
const browsers = { Edge: /Edg/, Opera: /OPR/, Firefox: /Firefox/, Chrome: /Chrome/, Safari: /Safari/ };
const systems = {
  Windows: /Windows/,
  iOS: /iPhone|iPad/,
  macOS: /Mac OS/,
  Android: /Android/,
  Linux: /Linux/,
};

const named = (of: Readonly<Record<string, RegExp>>, agent: string): string | undefined =>
  Object.entries(of).find(([, sign]) => sign.test(agent))?.[0];

/** What a browser calls itself, in a few words: "Firefox on Linux". */
export function agentText(agent: string): string {
  const browser = named(browsers, agent);
  const system = named(systems, agent);
  if (!browser) return tell('people.account.unknown');
  return system ? tell('people.account.browser', { browser, system }) : browser;
}
