import type { BoardAddress } from './board-address';
import { BoardSession } from './board-session';
import { ServerSource } from './server-source';

const sessions = new Map<string, BoardSession>();

/** The session of a board on this page: charts and levers of the same address share it. */
export function sessionOf(address: BoardAddress, lang: string | undefined): BoardSession {
  const { server, board, link } = address;
  const name = JSON.stringify([server, board, link]);
  const session = sessions.get(name) ?? new BoardSession(new ServerSource(address), lang);
  if (!sessions.has(name)) {
    sessions.set(name, session);
    for (const lever of new Set(address.positions.keys()))
      session.say(lever, address.positions.getAll(lever));
  } else session.speak(lang);
  return session;
}
