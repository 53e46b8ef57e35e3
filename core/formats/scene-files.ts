/** The files around a scene, wherever they are: a folder, an upload, an archive, or memory. */
export interface SceneFiles {
  /**
   * Null when there is no such file. Paths count from the root, with forward slashes; one may lead out of the
   * root (`../`, `/`), and what keeps the files decides whether that can be read.
   */
  read(path: string): Promise<Uint8Array | null>;
  /** The path of a file that differs in upper and lower case alone. */
  otherCase(path: string): Promise<string | null>;
}

/** Files whose paths are all known beforehand. */
export function knownFiles(paths: Iterable<string>, read: SceneFiles['read']): SceneFiles {
  const lower = new Map(Array.from(paths, (path) => [path.toLowerCase(), path]));
  return { read, otherCase: async (path) => lower.get(path.toLowerCase()) ?? null };
}

export const filesInMemory = (files: Map<string, Uint8Array>): SceneFiles =>
  knownFiles(files.keys(), async (path) => files.get(path) ?? null);
