/** What must be on the machine: Node, the packages, PostgreSQL's server, and for the tests Chromium and tools for pictures. */
import { createHash } from 'node:crypto';
import { existsSync, readdirSync, readFileSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import process from 'node:process';
import { fileURLToPath } from 'node:url';
import { attempt, show } from './command.mjs';
import { CannotGoOn, say } from './say.mjs';

export const root = fileURLToPath(new URL('../../', import.meta.url));

export function needNode() {
  const [major, minor] = process.versions.node.split('.').map(Number);
  if (major < 20 || (major === 20 && minor < 19))
    throw new CannotGoOn(`Dusting needs Node 20.19 or newer; this is ${process.versions.node}.`);
}

/**
 * Installs what package-lock.json says, once for each of its states. Not with `npm ci`: that refuses when a
 * registry lacks an optional package of some other platform.
 */
export function needPackages() {
  const lock = createHash('sha256')
    .update(readFileSync(join(root, 'package-lock.json')))
    .digest('hex');
  const stamp = join(root, 'node_modules', '.installed-lock');
  if (existsSync(stamp) && readFileSync(stamp, 'utf8') === lock) return;
  say('Installing the packages of package-lock.json (npm install) …');
  const args = ['install', '--no-save', '--no-audit', '--no-fund', '--loglevel=error'];
  if (!show('npm', args, { cwd: root }))
    throw new CannotGoOn('npm could not install the packages; its message stands above. Nothing else was changed.');
  writeFileSync(stamp, lock);
}

/** @returns {string} folder of initdb, pg_ctl and postgres */
export function needPostgres() {
  const find = () => {
    const versions = existsSync('/usr/lib/postgresql') ? readdirSync('/usr/lib/postgresql') : [];
    const folders = versions.sort((a, b) => b - a).map((v) => `/usr/lib/postgresql/${v}/bin`);
    return folders.find((folder) => existsSync(join(folder, 'initdb')));
  };
  return find() ?? (install('postgresql', 'the PostgreSQL server'), find());
}

/** @returns {string} path of the browser */
export function needChromium() {
  const path = '/usr/bin/chromium';
  if (!existsSync(path)) install('chromium', 'the Chromium browser, for the interface tests');
  return path;
}

/** Reads back what we write: OpenEXR's and OpenImageIO's own tools. */
export function needExrTools() {
  if (!existsSync('/usr/bin/exrheader')) install('openexr', 'OpenEXR’s tools, for the tests of files');
  if (!existsSync('/usr/bin/oiiotool')) install('openimageio-tools', 'OpenImageIO’s tools, for the tests of files');
}

/** Opens the archives we write. */
export function needUnzip() {
  if (!existsSync('/usr/bin/unzip')) install('unzip', 'unzip, for the tests of packages');
}

/** A proxy that speaks TLS, as one stands before a Dusting on a network. */
export function needProxy() {
  if (!existsSync('/usr/sbin/haproxy')) install('haproxy', 'the HAProxy proxy, for the tests of signing in');
  if (!existsSync('/usr/bin/openssl')) install('openssl', 'OpenSSL, for the tests of signing in');
}

function install(name, what) {
  if (process.getuid?.() !== 0 || !existsSync('/usr/bin/apt-get'))
    throw new CannotGoOn(
      `Dusting needs ${what}. It is not on this machine, and only root can install it. Run:\n  sudo apt-get install ${name}`,
    );
  say(`Installing Debian's package ${name} (${what}) …`);
  const env = { ...process.env, DEBIAN_FRONTEND: 'noninteractive' };
  attempt('apt-get', ['update'], { env });
  const done = attempt('apt-get', ['install', '-y', '--no-install-recommends', name], { env });
  if (!done.ok)
    throw new CannotGoOn(
      `Debian's package ${name} could not be installed:\n${done.out.split('\n').slice(-5).join('\n')}`,
    );
}
