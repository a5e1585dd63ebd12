/** A field as RFC 4180 has it; one that a spreadsheet would take for a formula is held as text. */
export function csvField(text: string): string {
  const held = /^[=+\-@\t\r]/.test(text) ? `'${text}` : text;
  return /[",\r\n]/.test(held) ? `"${held.replaceAll('"', '""')}"` : held;
}
