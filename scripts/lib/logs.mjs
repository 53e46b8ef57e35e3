/** Log files of processes that write to them as they stand: kept from growing for ever. */
import { copyFileSync, existsSync, renameSync, statSync, truncateSync } from 'node:fs';
import { setInterval } from 'node:timers';

const LARGEST = 16 * 2 ** 20;
const KEPT = 3;
const EVERY_MS = 30_000;

/**
 * A file past 16 MB is copied to `name.1`, those before it to `.2` and `.3`, and begun anew. It is copied and cut rather
 * than moved, because its writer goes on with the file it has open.
 */
export function rotate(file) {
  if (!existsSync(file) || statSync(file).size < LARGEST) return;
  for (let n = KEPT - 1; n >= 1; n--) if (existsSync(`${file}.${n}`)) renameSync(`${file}.${n}`, `${file}.${n + 1}`);
  copyFileSync(file, `${file}.1`);
  truncateSync(file);
}

/** Looks after some files for as long as the process lives. */
export function rotateRegularly(files) {
  const look = () => {
    for (const file of files)
      try {
        rotate(file);
      } catch {
        // A full disk is told elsewhere; the next look may have room.
      }
  };
  look();
  setInterval(look, EVERY_MS).unref();
}
