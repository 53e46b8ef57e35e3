/** Runs on a thread of the web process: what takes long, so that other requests go on. */
export { dryRunPackage } from './intake/dry-run-package.ts';
export { examineFile } from './look/examine-file.ts';
export { exrOfFilms } from './render/exr-of-films.ts';
export { figuresOfFilms } from './render/figures-of-films.ts';
export { makeShot } from './shots/make-shot.ts';
