/** The room that a show has in somebody's window, as their browser keeps it for the server: it draws the show for it. */
export interface ShowRoom {
  /** The window, px. */
  width: number;
  height: number;
  /** The ground it was seen on last. */
  ground: 'light' | 'dark';
  /** The room of each plot, px, by its chart. */
  plots: Readonly<Record<string, { width: number; height: number }>>;
}

/** The name of the cookie in which a browser keeps it, for the address of that show alone. */
export const roomCookie = 'sorvik-room';

/** A cookie is not to grow beyond what browsers keep: of so many plots the room is known, and the others are guessed. */
const mostPlots = 40;
const mostLetters = 3000;

const largest = 8000;
const size = /^(\d{1,4})x(\d{1,4})$/;
const sizeIn = (text: string) => {
  const [, width, height] = size.exec(text) ?? [];
  const read = { width: Number(width), height: Number(height) };
  return read.width >= 40 && read.height >= 40 && read.width <= largest && read.height <= largest
    ? read
    : null;
};
const sizeText = ({ width, height }: { width: number; height: number }) =>
  `${Math.floor(width)}x${Math.floor(height)}`;

/** A room as a text without blanks, commas and semicolons: `light.1280x800.by-route~612x380`. */
export function roomText({ ground, plots, ...window }: ShowRoom): string {
  let text = `${ground}.${sizeText(window)}`;
  for (const [chart, plot] of Object.entries(plots).slice(0, mostPlots)) {
    const more = `.${encodeURIComponent(chart).replaceAll('.', '%2E').replaceAll('~', '%7E')}~${sizeText(plot)}`;
    if (text.length + more.length <= mostLetters) text += more;
  }
  return text;
}

/** Reads what `roomText` has written; null for anything else. What of it makes no sense is left out. */
export function roomIn(text: string): ShowRoom | null {
  const [ground, window = '', ...rest] = text.split('.');
  const read = sizeIn(window);
  if ((ground !== 'light' && ground !== 'dark') || !read || text.length > mostLetters) return null;
  const plots = rest.slice(0, mostPlots).flatMap((each) => {
    const [name = '', at = ''] = each.split('~');
    const plot = sizeIn(at);
    return plot && isEncoded(name) ? [[decodeURIComponent(name), plot] as const] : [];
  });
  return { ...read, ground, plots: Object.fromEntries(plots) };
}

function isEncoded(text: string): boolean {
  try {
    return decodeURIComponent(text) !== '';
  } catch {
    return false;
  }
}
