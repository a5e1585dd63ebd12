import type { Locale } from '@sorvik/core/messages/locale';
import { say } from '../../ui/say';
import type { Picture } from './picture';

const sharpness = 2;
/** Larger canvases are refused by browsers. */
const mostPixels = 60_000_000;

/** A picture as PNG, at twice the size where that is possible. */
export async function pngOf({ text, width, height }: Picture, locale: Locale): Promise<Blob> {
  const url = URL.createObjectURL(new Blob([text], { type: 'image/svg+xml;charset=utf-8' }));
  try {
    const image = new Image();
    image.src = url;
    await image.decode();
    const scale = Math.min(sharpness, Math.sqrt(mostPixels / (width * height)));
    const canvas = document.createElement('canvas');
    canvas.width = Math.round(width * scale);
    canvas.height = Math.round(height * scale);
    canvas.getContext('2d')!.drawImage(image, 0, 0, canvas.width, canvas.height);
    return await new Promise((resolve, reject) =>
      canvas.toBlob(
        (blob) => (blob ? resolve(blob) : reject(new Error(say(locale, 'menu.tooLarge')))),
        'image/png',
      ),
    );
  } finally {
    URL.revokeObjectURL(url);
  }
}
