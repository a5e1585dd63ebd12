import { readdirSync, readFileSync } from 'node:fs';
import { join } from 'node:path';
import { parse as parseCode } from '@babel/parser';
import { type MessageFormatElement, parse, TYPE } from '@formatjs/icu-messageformat-parser';
import { alignments } from '@sorvik/core/board/layout';
import { latestOf } from '@sorvik/core/conditions/latest';
import { comparisons } from '@sorvik/core/conditions/threshold';
import { spanPresets } from '@sorvik/core/levers/span-presets';
import { catalogueOf } from '@sorvik/core/messages/catalogue';
import { localeOf } from '@sorvik/core/messages/locale';
import { describe, expect, it } from 'vitest';

const root = join(import.meta.dirname, '../..');
const read = (path: string) => readFileSync(join(root, path), 'utf8');
/** Where messages are, and in which languages: what viewers read is translated, what authors read is English. */
const catalogues = [
  { folder: 'formula/messages', languages: ['en'] },
  { folder: 'core/messages', languages: ['en', 'de'] },
  { folder: 'core/messages/desk', languages: ['en'] },
  { folder: 'server/messages', languages: ['en'] },
  { folder: 'view/messages', languages: ['en', 'de'] },
  { folder: 'embed/messages', languages: ['en', 'de'] },
  { folder: 'web/messages', languages: ['en', 'de'] },
  { folder: 'web/messages/bench', languages: ['en'] },
];
const workspaces = ['formula', 'core', 'view', 'embed', 'web', 'server'] as const;
/** The source files of workspaces, tests left out. */
const sourcesIn = (...folders: string[]): string[] =>
  folders.flatMap((workspace) =>
    readdirSync(join(root, workspace), { recursive: true, encoding: 'utf8' })
      .map((file) => `${workspace}/${file.replaceAll('\\', '/')}`)
      .filter((file) => /\.tsx?$/.test(file) && !/node_modules|\.test\.|\.d\.ts$/.test(file)),
  );
const messagesOf = (folder: string, language: string) =>
  JSON.parse(read(`${folder}/${language}.json`)) as Record<string, string>;

/** A slot of a message: what it takes, and for those that choose, what there is to choose from. */
type Slot = { name: string; takes: 'text' | 'number' } | { name: string; takes: 'choice'; of: string[] };

function slotsOf(elements: readonly MessageFormatElement[]): Slot[] {
  return elements.flatMap((element): Slot[] => {
    if (element.type === TYPE.argument) return [{ name: element.value, takes: 'text' }];
    if (element.type === TYPE.number) return [{ name: element.value, takes: 'number' }];
    if (element.type !== TYPE.select && element.type !== TYPE.plural) return [];
    const inner = Object.values(element.options).flatMap((option) => slotsOf(option.value));
    return element.type === TYPE.plural
      ? [{ name: element.value, takes: 'number' }, ...inner]
      : [{ name: element.value, takes: 'choice', of: Object.keys(element.options) }, ...inner];
  });
}

/** The slots of a message by their names: a number where one of its places wants one. */
function slotsByName(message: string): Map<string, Slot> {
  const slots = new Map<string, Slot>();
  for (const slot of slotsOf(parse(message, { ignoreTag: true }))) {
    const known = slots.get(slot.name);
    if (!known || known.takes === 'text') slots.set(slot.name, slot);
    else if (known.takes === 'choice' && slot.takes === 'choice')
      slots.set(slot.name, { ...slot, of: [...new Set([...known.of, ...slot.of])] });
  }
  return slots;
}

const counts = [0, 1, 2, 5, 1234];
const longName = `Überfahrten nach "O’Harl – Ñandú", {nicht gemeint} und '{weiter}' 🚢 ${'sehr '.repeat(20)}lang`;

/** Every way to fill the choices of a message; numbers go along together. */
function fillings(slots: ReadonlyMap<string, Slot>): Record<string, string | number>[] {
  let all: Record<string, string | number>[] = counts.map((count) =>
    Object.fromEntries(
      [...slots.values()].flatMap(({ name, takes }) =>
        takes === 'choice' ? [] : [[name, takes === 'number' ? count : longName]],
      ),
    ),
  );
  for (const slot of slots.values())
    if (slot.takes === 'choice')
      all = all.flatMap((filling) => slot.of.map((choice) => ({ ...filling, [slot.name]: choice })));
  return all;
}

describe.each(catalogues)('the messages in $folder', ({ folder, languages }) => {
  const english = messagesOf(folder, 'en');
  it.each(languages)('says every message in "%s", whatever stands in its slots', (language) => {
    const messages = messagesOf(folder, language);
    const catalogue = catalogueOf(english);
    catalogue.learn(language, messages);
    const locale = localeOf(language);
    for (const id of Object.keys(english)) {
      const slots = slotsByName(english[id]!);
      const texts = fillings(slots).map((filling) => catalogue.say(locale, id, filling));
      for (const text of texts) {
        expect(text.trim(), id).not.toBe('');
        // Braces are left of no slot; a message that shows some has them in quotes.
        if (!english[id]!.includes("'{")) expect(text.replaceAll(longName, ''), id).not.toMatch(/[{}]/);
        expect(text.replaceAll(longName, 'X'), id).not.toMatch(
          /undefined|\[object|\bNaN\b| {2}| [,;)]| \.(?![.\w])| :(?=\s|$)/,
        );
      }
      // A name is heard in some of them, as it is.
      if ([...slots.values()].some(({ takes }) => takes === 'text'))
        expect(
          texts.some((text) => text.includes(longName)),
          id,
        ).toBe(true);
    }
  });
  it('has the same messages with the same slots in every language', () => {
    for (const language of languages) {
      const messages = messagesOf(folder, language);
      expect(Object.keys(messages), language).toEqual(Object.keys(english));
      for (const [id, text] of Object.entries(english)) {
        const known = slotsByName(text);
        // A language may choose by something that English need not look at, but fills no slot that English has not.
        const unknown = [...slotsByName(messages[id]!)].filter(([name]) => !known.has(name));
        expect(unknown, `${language} ${id}`).toEqual([]);
      }
    }
  });
  it('has no message that nobody says', () => {
    const sources = sourcesIn(...workspaces)
      .map(read)
      .join('\n');
    const unsaid = Object.keys(english).filter((id) => !sources.includes(`'${id}'`));
    expect(unsaid).toEqual([]);
  });
});

/** What is not read by people who use the program, or is written for those who program it. */
const notShown = [
  /^(core|view|server|web)\/testing\//,
  // What is offered on the pages of the documentation and of the interface for programs.
  /^core\/edit\/sentences-page\.ts$/,
  /^server\/(docs-pages|drizzle\.config|http\/openapi)\.ts$/,
  // What runs the server, and its log.
  /^server\/(main|log-file|db\/(client|failure|room))\.ts$/,
  /^(web|embed)\/vite\.config\.ts$/,
  // What a package for programmers says of itself.
  /^embed\/package\//,
];
/** Texts that name something to the program: values of documents and keys of registries. No one reads them. */
const namesOfThings = new Set([
  ...[...comparisons, ...latestOf, ...spanPresets, ...alignments],
  ...[
    'far next',
    'far previous',
    'mark layer',
    'chart painted',
    'chart first paint',
    'up to',
    'file with data',
  ],
  ...['leaves out', 'keep top', 'light years', 'no value', 'too long', 'Shift Space', 'This description'],
  // What is written into addresses, style sheets, stores and schemas, and the rule of English plurals.
  ...['{} long', '{} / span {}', 'sorvik steps {}', 'Sorvik board', ' of {}', '{} values'],
]);
/** Keys of lists that name their kind first. */
const isKey = (text: string) =>
  /^(press|ground|language|chart|move|lever|say|values|whole|part|measure|cue|clock|keep|keep span|light by|split|key|partial)( \{\})+$/.test(
    text,
  );
const isSql = (text: string) =>
  /\b(BETWEEN|CASE|ATTACH|DETACH|LISTEN|JOIN|CHECKPOINT|INSERT INTO|CREATE OR REPLACE|LIMIT \{|BIGINT|NOT NULL|COLLATE|OVER|SELECT|WHERE|GROUP BY|TABLE|SAVEPOINT|ANALYZE|SET \w+|character varying|with(out)? time zone|WITH TIME ZONE|ISOLATION LEVEL|\w+ = (true|false)$|UPDATE|DELETE FROM|IS (NOT )?(NULL|DISTINCT)|NOT (\{|LIKE)|NULLS|CURRENT ROW|(ORDER|PARTITION) BY|double precision|AS [karp]?\{|AS grain)|::|^DATE \{\}$/.test(
    text,
  );
const isHeader = (text: string) => /max-age|no-transform|attachment;|rel=preload|charset=/.test(text);
const isSelector = (text: string) => /^(\w+, )+\w+$|^:scope /.test(text);
/** The last name of `log`, `this.log`. */
const nameOf = (node: unknown): unknown =>
  (node as Node | undefined)?.name ?? ((node as Node | undefined)?.property as Node | undefined)?.name;
/** What programs and those who run them read: the interface description, logs, and mistakes of the program itself. */
const isForProgrammers = (node: Node): boolean =>
  (node.type === 'ThrowStatement' &&
    /^(Error|TypeError)$/.test(String(((node.argument as Node).callee as Node | undefined)?.name))) ||
  (node.type === 'ObjectProperty' && /^(summary|description)$/.test(String((node.key as Node).name))) ||
  (node.type === 'NewExpression' && (node.callee as Node).name === 'Error') ||
  (node.type === 'CallExpression' && /\blog\b/.test(String(nameOf((node.callee as Node).object)))) ||
  (node.type === 'CallExpression' && (node.callee as Node).type === 'Super');
/** Attributes whose values are for the page, not for people. */
const plainAttributes = /^(className|style|key|role|type|id|d|transform|viewBox|placement|variant|data-.*)$/;
const isSvgOrCss = (text: string) =>
  /[([]|^\s*(is|sv|btn|form)-|px\b|'.*',|(^|\s)sv-|^(line|text|circle) \{\}$/.test(text);
const hasWords = (text: string) =>
  /\p{L}{2,}[^\p{L}]* [^\p{L}]*\p{L}{2,}|\p{L}{2,}…|\{\} \p{L}{2,}|\p{L}{2,} \{\}/u.test(text);

interface Node {
  type: string;
  loc: { start: { line: number } };
  [member: string]: unknown;
}

const parsed = (code: string): Node =>
  parseCode(code, { sourceType: 'module', plugins: ['typescript', 'jsx', 'decorators-legacy'] })
    .program as unknown as Node;

/** The texts in a source that a person could read. */
function textsIn(code: string): string[] {
  const found: string[] = [];
  const visit = (node: Node) => {
    if (/^(TS(?!As|NonNull|Satisfies)|Import|ExportAll)/.test(node.type)) return;
    if (isForProgrammers(node)) return;
    if (node.type === 'JSXAttribute' && plainAttributes.test(String((node.name as Node).name))) return;
    if (node.type === 'JSXText' && /\p{L}{2,}/u.test(String(node.value)))
      found.push(`${node.loc.start.line}: ${String(node.value).trim()}`);
    const text =
      node.type === 'StringLiteral'
        ? String(node.value)
        : node.type === 'TemplateLiteral'
          ? (node.quasis as { value: { cooked: string } }[]).map(({ value }) => value.cooked).join('{}')
          : '';
    if (
      hasWords(text) &&
      !isSvgOrCss(text) &&
      !isKey(text) &&
      !isSql(text) &&
      !isSelector(text) &&
      !isHeader(text) &&
      !namesOfThings.has(text)
    )
      found.push(`${node.loc.start.line}: ${text}`);
    for (const [name, value] of Object.entries(node)) {
      if (/Comments$|^(loc|extra)$/.test(name)) continue;
      for (const part of Array.isArray(value) ? value : [value])
        if (part && typeof part === 'object' && typeof (part as Node).type === 'string') visit(part as Node);
    }
  };
  visit(parsed(code));
  return found;
}

it('what people read is in the catalogues: there is no text in the code that shows it', () => {
  const files = sourcesIn(...workspaces).filter((file) => !notShown.some((left) => left.test(file)));
  expect(files.length).toBeGreaterThan(500);
  const outside = files.flatMap((file) => textsIn(read(file)).map((text) => `${file}:${text}`));
  expect(outside).toEqual([]);
});

/** The calls that say a message by its id, with the names of the slots that they fill; null where those cannot be read. */
function callsIn(code: string): { id: string; filled: string[] | null }[] {
  const found: { id: string; filled: string[] | null }[] = [];
  const visit = (node: Node) => {
    if (
      node.type === 'CallExpression' &&
      /^(say|tell|tellWith|tellParts|sentenceParts)$/.test(String((node.callee as Node).name))
    ) {
      const args = node.arguments as Node[];
      const at = args.findIndex(({ type }) => type === 'StringLiteral');
      const slots = args[at + 1];
      const properties = (slots?.properties ?? []) as Node[];
      const isPlain = !slots || (slots.type === 'ObjectExpression' && properties.every(({ key }) => key));
      if (at >= 0)
        found.push({
          id: String(args[at]!.value),
          filled: isPlain ? properties.map(({ key }) => String((key as Node).name)) : null,
        });
    }
    for (const value of Object.values(node).flat())
      if (value && typeof value === 'object' && typeof (value as Node).type === 'string')
        visit(value as Node);
  };
  visit(parsed(code));
  return found;
}

it('whoever says a message fills all of its slots', () => {
  const messages = Object.assign({}, ...catalogues.map(({ folder }) => messagesOf(folder, 'en'))) as Record<
    string,
    string
  >;
  const calls = sourcesIn(...workspaces).flatMap((file) =>
    callsIn(read(file)).map((call) => ({ file, ...call })),
  );
  expect(calls.length).toBeGreaterThan(800);
  const wrong = calls.flatMap(({ file, id, filled }) => {
    const message = messages[id];
    if (message === undefined || !filled) return [];
    const missing = [...slotsByName(message).keys()].filter((name) => !filled.includes(name));
    return missing.length ? [`${file}: ${id} without ${missing.join(', ')}`] : [];
  });
  expect(wrong).toEqual([]);
});

it('one id names one message', () => {
  const ids = catalogues
    .filter(({ folder }) => folder !== 'formula/messages')
    .flatMap(({ folder }) => Object.keys(messagesOf(folder, 'en')));
  expect(ids.filter((id, i) => ids.indexOf(id) !== i)).toEqual([]);
});

it('nothing is told while the program is being loaded: what authors read may not be learned yet', () => {
  const early: string[] = [];
  for (const file of sourcesIn('formula', 'core')) {
    const visit = (node: Node) => {
      if (/Function|ObjectMethod|ClassMethod/.test(node.type)) return;
      if (node.type === 'CallExpression' && /^(tell|sentenceParts)$/.test(String((node.callee as Node).name)))
        early.push(`${file}:${node.loc.start.line}`);
      for (const value of Object.values(node).flat())
        if (value && typeof value === 'object' && typeof (value as Node).type === 'string')
          visit(value as Node);
    };
    visit(parsed(read(file)));
  }
  expect(early).toEqual([]);
});

it('finds texts where there are some', () => {
  // biome-ignore lint/suspicious/noTemplateCurlyInString: it is code
  expect(textsIn("const a = 'Nothing to show'; const b = `${n} rows`; const c = <p>Empty</p>;")).toHaveLength(
    3,
  );
  expect(
    textsIn("import x from 'two words'; const a = <p className=\"one two\" />; set('sv-text sv-name');"),
  ).toEqual([]);
});
