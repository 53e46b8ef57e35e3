/**
 * Reads files of a version by their path; null for one that it has not.
 * @param manifest hashes by path
 */
export const versionFiles =
  (manifest: Record<string, string>) =>
  async (path: string): Promise<Uint8Array | null> => {
    if (!manifest[path]) return null;
    const response = await fetch(`/api/files/${manifest[path]}`);
    if (!response.ok) throw new Error(`${path} could not be read (${response.status})`);
    return new Uint8Array(await response.arrayBuffer());
  };
