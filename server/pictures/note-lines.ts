import type { NoteLine } from '@sorvik/view/picture/board-sheet';
import type { Nodes, RootContent } from 'mdast';
import { fromMarkdown } from 'mdast-util-from-markdown';
import { toString as textOf } from 'mdast-util-to-string';

const usual = 14;
/** The sizes of headings, px, by their depth. */
const headings = [20, 18, 16];

function linesOf(node: RootContent): NoteLine[] {
  if (node.type === 'heading')
    return [{ text: textOf(node), size: headings[node.depth - 1] ?? usual, bold: true }];
  if (node.type === 'list')
    return node.children.map((item, i) => ({
      text: `${node.ordered ? `${(node.start ?? 1) + i}.` : '•'} ${textOf(item as Nodes)}`,
      size: usual,
    }));
  if (node.type === 'html' || node.type === 'definition' || node.type === 'thematicBreak') return [];
  return textOf(node)
    .split('\n')
    .map((text) => ({ text, size: usual }));
}

/** The paragraphs of a note in Markdown, as plain text. */
export const noteLines = (markdown: string): NoteLine[] =>
  fromMarkdown(markdown)
    .children.flatMap(linesOf)
    .filter(({ text }) => text.trim() !== '');
