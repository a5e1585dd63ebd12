import type { ChartOrder, Dress } from './paint-chart';

/** The formats of a picture, and of the values that it shows. */
export const pictureFormats = ['svg', 'png', 'csv', 'json'] as const;
export type PictureFormat = (typeof pictureFormats)[number];

/** A picture that is to be made. */
export interface PictureOrder extends Dress {
  drawn: ChartOrder;
  format: PictureFormat;
  /** Of PNG, the dots for each px. */
  scale: number;
}

/** Why there is no picture: it has so many marks, or dots, which is more than one may have. */
export interface NoPicture {
  why: 'marks' | 'dots';
  n: number;
  most: number;
}

/** What a thread is told when it begins. */
export interface PainterData {
  /** The file with the style sheet of pictures. */
  theme: string;
}
