/** So much of a file is looked at. */
const head = 4096;
/** The list of what is in a zip file is at its end. */
const tail = 128 * 1024;

const textOf = (part: Blob) => part.text().catch(() => '');

/** Whether a file is a board, alone or with its data: by what is in it, since data comes as JSON and in zip files too. */
export async function isBoardFile(file: File): Promise<boolean> {
  if (/\.json$/i.test(file.name)) return /^\s*\{\s*"sorvik"\s*:/.test(await textOf(file.slice(0, head)));
  if (!/\.zip$/i.test(file.name)) return false;
  const list = await textOf(file.slice(Math.max(0, file.size - tail)));
  return list.includes('board.json') && list.includes('datapackage.json');
}
