/** The font of the page as a rule that carries the font itself, so that a picture looks the same anywhere. */
export async function embeddedFont(family: string): Promise<string> {
  for (const sheet of document.styleSheets)
    for (const rule of sheet.cssRules) {
      if (!(rule instanceof CSSFontFaceRule)) continue;
      const { style } = rule;
      const named = style.getPropertyValue('font-family').replaceAll(/["']/g, '') === family;
      // Of the parts of a font only the one with the letters of western languages.
      const latin = /U\+0{0,4}-0{0,2}FF/i.test(style.getPropertyValue('unicode-range'));
      const upright = style.getPropertyValue('font-style') !== 'italic';
      const source = /url\(["']?([^"')]+)/.exec(style.getPropertyValue('src'))?.[1];
      if (!named || !latin || !upright || !source) continue;
      const found = await fetch(new URL(source, sheet.href ?? document.baseURI));
      if (!found.ok) return '';
      const bytes = new Uint8Array(await found.arrayBuffer());
      let binary = '';
      for (const byte of bytes) binary += String.fromCharCode(byte);
      const weight = style.getPropertyValue('font-weight') || 'normal';
      return `@font-face{font-family:'${family}';font-weight:${weight};src:url(data:font/woff2;base64,${btoa(binary)}) format('woff2')}`;
    }
  return '';
}
