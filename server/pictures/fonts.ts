import { readFileSync } from 'node:fs';
import { createRequire } from 'node:module';
import type { TextMeasure } from '@sorvik/core/forms/scene';
import * as hb from 'harfbuzzjs';
import { LRUCache } from 'lru-cache';
import wawoff2 from 'wawoff2';

/** What a text is written in. */
export interface TextStyle {
  /** Px. */
  size: number;
  /** 100 to 900. */
  weight: number;
  italic: boolean;
}

/** Parts of the font of the page, in the order in which a letter is looked for; each upright and slanted. */
const parts = ['latin', 'latin-ext'] as const;
const files = '@fontsource-variable/atkinson-hyperlegible-next/files/atkinson-hyperlegible-next';
/** The file of a part, as a module that can be resolved. */
export const fontFile = (part: (typeof parts)[number], style: 'normal' | 'italic'): string =>
  `${files}-${part}-wght-${style}.woff2`;
/** What stands in for letters that it does not have, where the machine has it. */
const standIn = '/usr/share/fonts/truetype/dejavu/DejaVuSans.ttf';

/** One font file, which is set to a weight before it is used. */
interface Face {
  font: hb.Font;
  unitsPerEm: number;
  varies: boolean;
  weight: number;
}

function faceOf(bytes: Uint8Array): Face {
  const face = new hb.Face(new hb.Blob(bytes as Uint8Array<ArrayBuffer>));
  return {
    font: new hb.Font(face),
    unitsPerEm: face.upem,
    varies: 'wght' in face.getAxisInfos(),
    weight: 400,
  };
}

/** The numbers of a path are in this many parts of a px. */
const fine = 100;
const rounded = (px: number) => Math.round(px * fine) / fine;

/** A stretch of a text that one font has. */
interface Run {
  face: Face;
  text: string;
}

/**
 * The font of the page, for pictures that are drawn without one: texts are shaped by the same library that browsers shape
 * them by, so that they are as wide.
 */
export class Fonts {
  private readonly buffer = new hb.Buffer();
  private readonly widths = new LRUCache<string, number>({ max: 50_000 });
  /** What is on an axis or beside a mark is there in the next picture too. */
  private readonly drawn = new LRUCache<string, { path: string; advance: number }>({ max: 5000 });

  private constructor(
    private readonly upright: readonly Face[],
    private readonly slanted: readonly Face[],
  ) {}

  /** Reads the font files. */
  static async load(): Promise<Fonts> {
    const { resolve } = createRequire(import.meta.url);
    const read = async (style: 'normal' | 'italic') => {
      const faces: Face[] = [];
      // One after the other: what unpacks them has room for one.
      for (const part of parts)
        faces.push(faceOf(await wawoff2.decompress(readFileSync(resolve(fontFile(part, style))))));
      return faces;
    };
    const upright = await read('normal');
    const slanted = await read('italic');
    let last: Face[] = [];
    try {
      last = [faceOf(readFileSync(standIn))];
    } catch {
      // Then a letter that nobody has is an empty box, as in a browser.
    }
    return new Fonts([...upright, ...last], [...slanted, ...last]);
  }

  /** The advance of a text, px: as a page measures it. */
  readonly measure: TextMeasure = (text, size, bold = false) => {
    const name = `${bold ? 'b' : ''}${text}`;
    let wide = this.widths.get(name);
    if (wide === undefined) {
      wide = this.shaped(text, { size: 1, weight: bold ? 700 : 400, italic: false }).advance;
      this.widths.set(name, wide);
    }
    return wide * size;
  };

  /** The outlines of a text that begins at 0 on its baseline, as the data of a path, and its advance; px. */
  outlines(text: string, style: TextStyle): { path: string; advance: number } {
    const name = [style.size, style.weight, style.italic, text].join();
    const known = this.drawn.get(name);
    if (known) return known;
    let path = '';
    const { advance } = this.shaped(text, style, (glyph, x, y, { font }, scale) => {
      for (const { type, values } of font.glyphToJson(glyph)) {
        path += type;
        for (let i = 0; i < values.length; i += 2)
          path += `${i ? ' ' : ''}${rounded(x + values[i]! * scale)} ${rounded(y - values[i + 1]! * scale)}`;
      }
    });
    const outlines = { path, advance };
    this.drawn.set(name, outlines);
    return outlines;
  }

  private runsOf(text: string, faces: readonly Face[]): Run[] {
    const runs: Run[] = [];
    for (const letter of text) {
      const code = letter.codePointAt(0)!;
      const face = faces.find(({ font }) => font.nominalGlyph(code) !== undefined) ?? faces[0]!;
      const last = runs.at(-1);
      if (last?.face === face) last.text += letter;
      else runs.push({ face, text: letter });
    }
    return runs;
  }

  private shaped(
    text: string,
    { size, weight, italic }: TextStyle,
    draw?: (glyph: number, x: number, y: number, face: Face, scale: number) => void,
  ): { advance: number } {
    let advance = 0;
    for (const { face, text: run } of this.runsOf(text, italic ? this.slanted : this.upright)) {
      if (face.varies && face.weight !== weight) {
        face.font.setVariations([new hb.Variation('wght', weight)]);
        face.weight = weight;
      }
      const scale = size / face.unitsPerEm;
      const { buffer } = this;
      buffer.reset();
      buffer.addText(run);
      buffer.guessSegmentProperties();
      hb.shape(face.font, buffer);
      const positions = buffer.getGlyphPositions();
      for (const [i, { codepoint }] of buffer.getGlyphInfos().entries()) {
        const { xAdvance, xOffset, yOffset } = positions[i]!;
        draw?.(codepoint, advance + xOffset * scale, -yOffset * scale, face, scale);
        advance += xAdvance * scale;
      }
    }
    return { advance };
  }
}
