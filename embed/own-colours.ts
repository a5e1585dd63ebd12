import type { Locale } from '@sorvik/core/messages/locale';
import { contrast } from '@sorvik/view/contrast';
import { say } from './say';

/** Text is read at this contrast with its ground (WCAG 2.2, 1.4.3). */
const leastContrast = 4.5;

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
