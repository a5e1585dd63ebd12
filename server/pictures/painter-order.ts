import type { Drawn, Dress } from './drawn';

/** The formats of a picture, and of the values that a chart shows. */
export const chartFormats = ['svg', 'png', 'csv', 'json'] as const;
export const boardFormats = ['svg', 'png', 'pdf'] as const;
export type PictureFormat = (typeof chartFormats)[number] | (typeof boardFormats)[number];

/** The sizes of a page, and how it lies. */
export const papers = ['a4', 'a3', 'letter'] as const;
export const orientations = ['landscape', 'portrait'] as const;

/** The pages of a PDF. */
export interface Pages {
  paper: (typeof papers)[number];
  orientation: (typeof orientations)[number];
}

/** A picture that is to be made. */
export interface PictureOrder extends Dress, Pages {
  drawn: Drawn;
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
