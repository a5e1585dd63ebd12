import { decimal } from '@sorvik/formula/decimal';
import { fixedText } from '../words/number-text';
import { decimalsOf } from './steps';

interface Written {
  step: number;
  decimals?: number;
  unit?: string;
}

/** A figure with the decimals of its lever and its unit: "0.5 €", "1,200". */
export function leverFigureText({ step, decimals, unit }: Written, figure: number): string {
  const text = fixedText(figure, decimals ?? decimalsOf(step));
  return unit ? `${text} ${unit}` : text;
}

/** A share with as many decimals of a percent as its step needs: "12.5 %". */
export const shareText = (step: number, share: number) =>
  `${fixedText(decimal(share * 100), Math.max(0, decimalsOf(step) - 2))} %`;
