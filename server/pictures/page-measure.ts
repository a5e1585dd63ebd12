// Stands in for what measures texts in a page, where a page is drawn on the server: by the same font.
import type { TextMeasure } from '@sorvik/core/forms/scene';
import { Fonts } from './fonts';

const fonts = await Fonts.load();

export const measureText: TextMeasure = fonts.measure;
export const textMeasure = (): TextMeasure => measureText;
export const fontReady = async (): Promise<void> => {};
