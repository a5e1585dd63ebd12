declare module 'svg-to-pdfkit' {
  import type PdfDocument from 'pdfkit';

  interface Options {
    width?: number;
    height?: number;
    preserveAspectRatio?: string;
    /** Px are points. */
    assumePt?: boolean;
  }

  /** Draws an SVG into a PDF, at a place on its page in points. */
  export default function svgToPdf(
    file: InstanceType<typeof PdfDocument>,
    svg: string,
    x: number,
    y: number,
    options?: Options,
  ): void;
}
