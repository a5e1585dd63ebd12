import type { ShowRoom } from './show-room';

/** A show that a server is to draw. */
export interface DrawOrder {
  board: string;
  /** Where its levers stand, as in its address: `?count=3`, or nothing. */
  search: string;
  room: ShowRoom;
}

/** What its page asks for while it is drawn, told apart by a number. */
export interface Asked {
  number: number;
  path: string;
  method: string;
  body: string | null;
}

/** What it is answered. */
export interface Answered {
  number: number;
  status: number;
  type: string;
  body: Uint8Array;
}

/** A show as HTML, and what the page around it is to be. */
export interface DrawnShow {
  html: string;
  /** The values of its charts as tables, for viewers whose browser runs no scripts. */
  values: string;
  lang: string;
  dir: string;
  ground: string;
}
