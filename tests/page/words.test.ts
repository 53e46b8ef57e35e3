/** The words of the page, the shell and the documents: terms that the glossary retires stand nowhere, and no raw controls. */
import { expect } from 'chai';
import { readdirSync, readFileSync } from 'node:fs';
import { join, relative } from 'node:path';
import { CATALOGUES, catalogueOf, textsOf } from '../../scripts/lib/texts.mjs';

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

/** What a person can read of a file. */
function readable(path: string): string[] {
  const text = readFileSync(path, 'utf8');
  return path.endsWith('.md') ? [text] : textsOf(path, text).map((one) => one.text);
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

describe('the catalogues of texts', () => {
  it('tell texts of a component by line, with what is computed in braces', () => {
    const component = `<script setup lang="ts">
const told = (n: number) => \`\${n} of them cannot be read\`;
type Kind = 'no text of a type';
</script>

<template>
  <Button label="Try here" class="no text" @click="say('Nothing was kept.')">
    {{ left.length }} left <b>in the list</b>
  </Button>
</template>`;
    expect(textsOf('Some.vue', component)).to.deep.equal([
      { line: 2, text: '{n} of them cannot be read' },
      { line: 7, text: 'Try here' },
      { line: 7, text: 'Nothing was kept.' },
      { line: 8, text: '{left.length} left' },
      { line: 8, text: 'in the list' },
    ]);
  });

  it('have every view, and every file that is read is in one', () => {
    const paths = ['core', 'server', 'host', 'cli', 'web'].flatMap((folder) => filesIn(folder, /\.(ts|vue)$/)).map((path) => relative(root, path)); // prettier-ignore
    const used = new Set(paths.map(catalogueOf));
    expect([...used].sort()).to.deep.equal([...Object.keys(CATALOGUES), ...(used.has(null) ? [null] : [])].sort());
    expect(paths.filter((path) => catalogueOf(path) === null && !path.startsWith('host/'))).to.deep.equal([]);
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
