/**
 * Every repair that preflight offers, one after the other, each worked out on what those before it left.
 *
 * @example
 * const { patch, files, done } = await repairAll(document, read, profile);
 */
import { applyPatch, type JsonPatch } from '../document/patch.ts';
import type { ShotDocument } from '../document/schema.ts';
import { knownFiles } from '../formats/scene-files.ts';
import { neededFiles, type ReadFile } from '../render/compile/load-assets.ts';
import { fromShot } from './from-shot.ts';
import type { CheckResult } from './preflight/check.ts';
import type { Profile } from './preflight/profile.ts';
import { runPreflight } from './preflight/run.ts';
import { carryOut } from './repairs/carry-out.ts';

export interface Repaired {
  document: ShotDocument;
  /** From the document that was given. */
  patch: JsonPatch;
  files: Map<string, Uint8Array>;
  done: { id: string; label: string }[];
}

/** @param ids checks whose repairs are wanted; null: all that have one */
export async function repairAll(
  document: ShotDocument,
  read: ReadFile,
  profile: Profile,
  ids: string[] | null = null,
): Promise<Repaired> {
  const out: Repaired = { document, patch: [], files: new Map(), done: [] };
  const readAll: ReadFile = async (path) => out.files.get(path) ?? read(path);
  for (;;) {
    const next = (await checksOf(out.document, readAll, profile)).find(
      // A repair that leaves something is not tried twice.
      ({ id, repair }) => repair && (ids?.includes(id) ?? true) && !out.done.some((one) => one.id === id),
    );
    if (!next) return out;
    const { patch, files } = await carryOut(out.document, next.repair!, readAll);
    out.document = applyPatch(out.document, patch);
    out.patch.push(...patch);
    for (const [path, bytes] of files) out.files.set(path, bytes);
    out.done.push({ id: next.id, label: next.repair!.label });
  }
}

async function checksOf(document: ShotDocument, read: ReadFile, profile: Profile): Promise<CheckResult[]> {
  const paths = await neededFiles(document, read, document.code, 'stand in');
  const source = await fromShot(document, 0, knownFiles(paths, read));
  return runPreflight(source, profile, document);
}
