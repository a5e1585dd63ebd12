declare module 'wawoff2' {
  const wawoff2: {
    /** The TrueType font in a WOFF2 file. */
    decompress(file: Uint8Array): Promise<Uint8Array>;
  };
  export default wawoff2;
}
