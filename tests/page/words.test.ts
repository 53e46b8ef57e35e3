/** The words of the page, the shell and the documents: terms that the glossary retires stand nowhere, and no raw controls. */
import { expect } from 'chai';
import { readdirSync, readFileSync } from 'node:fs';
import { join, relative } from 'node:path';
import ts from 'typescript';

const root = join(import.meta.dirname, '../..');
const filesIn = (folder: string, ending: RegExp): string[] =>
  readdirSync(join(root, folder), { recursive: true, encoding: 'utf8' })
    .filter((name) => ending.test(name) && !name.includes('node_modules'))
    .map((name) => join(root, folder, name));

/** `| retired | use |` rows below the heading. */
function retiredTerms(): { term: string; use: string }[] {
  const text = readFileSync(join(root, 'docs/glossary.md'), 'utf8').split('## Retired')[1];
  return text
    .split('\n')
    .filter((line) => line.startsWith('|'))
    .slice(2)
    .map((line) => line.split('|').map((cell) => cell.trim()))
    .map(([, term, use]) => ({ term, use }));
}

/** Sentences of a script: its strings, and the fixed parts of its templates. */
function stringsOf(text: string): string[] {
  const out: string[] = [];
  const visit = (node: ts.Node): void => {
    if (ts.isImportDeclaration(node)) return;
    if (ts.isStringLiteralLike(node) || ts.isTemplateHead(node) || ts.isTemplateMiddle(node) || ts.isTemplateTail(node)) out.push(node.text); // prettier-ignore
    ts.forEachChild(node, visit);
  };
  visit(ts.createSourceFile('script.ts', text, ts.ScriptTarget.Latest));
  return out;
}
/** What a person can read of a file. */
function readable(path: string): string[] {
  const text = readFileSync(path, 'utf8');
  if (path.endsWith('.md')) return [text];
  if (path.endsWith('.ts')) return stringsOf(text);
  const script = /<script[^>]*>([\s\S]*?)<\/script>/.exec(text)?.[1] ?? '';
  const template = /<template>([\s\S]*)<\/template>/.exec(text)?.[1] ?? '';
  return [...stringsOf(script), template.replace(/<!--[\s\S]*?-->/g, '')];
}

describe('the words', () => {
  it('have none that the glossary retires', () => {
    const paths = [
      ...['core', 'server', 'cli', 'web'].flatMap((folder) => filesIn(folder, /\.(ts|vue)$/)),
      ...filesIn('docs', /\.md$/).filter((path) => !path.endsWith('glossary.md')),
      join(root, 'README.md'),
    ];
    const terms = retiredTerms();
    expect(terms.length).to.be.above(10);
    const found = paths.flatMap((path) =>
      readable(path).flatMap((text) =>
        terms
          .filter(({ term }) => new RegExp(`\\b${term.replaceAll(' ', '\\s+')}\\b`, 'i').test(text))
          .map(({ term, use }) => `${relative(root, path)}: “${term}”, use ${use}`),
      ),
    );
    expect([...new Set(found)]).to.deep.equal([]);
  });
});

describe('the page', () => {
  it('has its controls from the component library: no raw ones outside the shared components', () => {
    const found = filesIn('web', /\.vue$/)
      .filter((path) => !path.includes('components/shared'))
      .flatMap((path) => {
        const template = /<template>([\s\S]*)<\/template>/.exec(readFileSync(path, 'utf8'))?.[1] ?? '';
        const raw = template.match(/<(button|select|input|textarea|table|progress|dialog)[\s>]/g) ?? [];
        return raw.map((tag) => `${relative(root, path)}: ${tag.trim()}`);
      });
    expect(found).to.deep.equal([]);
  });

  it('asks and warns by dialogs of its own, not by those of the browser', () => {
    const found = filesIn('web', /\.(ts|vue)$/).filter((path) =>
      /\bwindow\.(alert|confirm|prompt)\(/.test(readFileSync(path, 'utf8')),
    );
    expect(found).to.deep.equal([]);
  });
});
