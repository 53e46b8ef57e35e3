#!/usr/bin/env node
/** `npm run texts`: every text a person reads, by view and place. `npm run texts -- findings trials` tells those alone. */
import { readdirSync, readFileSync } from 'node:fs';
import { join } from 'node:path';
import process from 'node:process';
import { root } from './lib/machine.mjs';
import { run, say } from './lib/say.mjs';
import { CATALOGUES, catalogueOf, textsOf } from './lib/texts.mjs';

// Whoever reads on may stop before the end: `npm run texts | head`.
process.stdout.on('error', (error) => process.exit(error.code === 'EPIPE' ? 0 : 1));

await run(async () => {
  const names = Object.keys(CATALOGUES);
  const wanted = process.argv.slice(2);
  const unknown = wanted.filter((name) => !names.includes(name));
  if (unknown.length) throw new Error(`There are no texts of "${unknown[0]}". There are: ${names.join(', ')}.`);
  const paths = ['web', 'core', 'server', 'host', 'cli']
    .flatMap((folder) => readdirSync(join(root, folder), { recursive: true }).map((path) => `${folder}/${path}`))
    .filter((path) => /\.(ts|vue)$/.test(path))
    .sort();
  for (const name of wanted.length ? wanted : names) {
    say(`\n# ${name}`);
    for (const path of paths.filter((one) => catalogueOf(one) === name)) {
      const texts = textsOf(path, readFileSync(join(root, path), 'utf8'));
      if (texts.length) say(`\n## ${path}\n`);
      for (const { line, text } of texts) say(`${String(line).padStart(4)}  ${text}`);
    }
  }
});
