import type { Picture } from './page-picture';

/** Larger canvases are refused by browsers. */
const mostPixels = 60_000_000;

/** A picture as PNG with so many dots for each px where that is possible; null where the browser refuses one that large. */
export async function picturePng({ text, width, height }: Picture, sharpness: number): Promise<Blob | null> {
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
    return await new Promise((resolve) => canvas.toBlob(resolve, 'image/png'));
  } finally {
    URL.revokeObjectURL(url);
  }
}
