import type { Locale } from '@sorvik/core/messages/locale';
import { say } from './say';

/** Text is read at this contrast with its ground (WCAG 2.2, 1.4.3). */
const leastContrast = 4.5;

/** Relative luminance of a colour as browsers compute it, `rgb(34, 39, 45)` (WCAG 2.2). */
function luminance(colour: string): number {
  const bytes = /rgba?\(([^)]*)\)/.exec(colour)?.[1]?.split(/[\s,]+/) ?? [];
  const [red = 0, green = 0, blue = 0] = bytes.slice(0, 3).map((byte) => {
    const part = Number(byte) / 255;
    return part <= 0.04045 ? part / 12.92 : ((part + 0.055) / 1.055) ** 2.4;
  });
  return 0.2126 * red + 0.7152 * green + 0.0722 * blue;
}

/** How well two colours stand off from each other, from 1 to 21. */
export function contrast(one: string, other: string): number {
  const [low = 0, high = 0] = [luminance(one), luminance(other)].sort((a, b) => a - b);
  return (high + 0.05) / (low + 0.05);
}

/**
 * Takes over the ink and the ground that a page asks for by `--sorvik-ink` and `--sorvik-ground`, where what is written in the one
 * can be read on the other; else it says so to whoever looks into the page, and keeps the theme's own.
 */
export function ownColours(host: HTMLElement, ground: HTMLElement, locale: Locale): void {
  delete ground.dataset.own;
  const style = getComputedStyle(host);
  const asked = (name: string) => style.getPropertyValue(name).trim();
  if (!asked('--sorvik-ink') && !asked('--sorvik-ground')) return;
  ground.dataset.own = '';
  const { color, backgroundColor } = getComputedStyle(ground);
  const found = contrast(color, backgroundColor);
  if (found >= leastContrast) return;
  delete ground.dataset.own;
  // biome-ignore lint/suspicious/noConsole: it is for whoever makes the page
  console.warn(
    say(locale, 'embed.contrast.low', {
      ink: color,
      ground: backgroundColor,
      contrast: Math.floor(found * 10) / 10,
    }),
  );
}
