/**
 * Everything the server remembers, as rows. Documents, patches and findings are kept as text and never as
 * `jsonb`, which would reorder their keys; large bytes are in the blob folder under their hash.
 */
export * from './schema/intake.ts';
export * from './schema/look.ts';
export * from './schema/running.ts';
export * from './schema/work.ts';
