#!/usr/bin/env node
/** `npm run lint`: lint rules, types, format. */
import process from 'node:process';
import { checks } from './lib/checks.mjs';
import { show } from './lib/command.mjs';
import { needNode, needPackages, root } from './lib/machine.mjs';
import { run, say } from './lib/say.mjs';

await run(async () => {
  needNode();
  needPackages();
  for (const { name, command, args } of checks) {
    const ok = show(command, args, { cwd: root });
    say(`${ok ? 'holds ' : 'FAILED'}  ${name}`);
    if (!ok) process.exitCode = 1;
  }
});
