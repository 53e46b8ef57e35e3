/** Files that a person chose or dropped, folders walked, each with its path below what was chosen. */
import type { UploadFile } from './client.ts';

/** Whether a name is that of a scene, by its ending. */
export const isSceneName = (name: string): boolean => /\.(gltf|glb|obj|usda)$/i.test(name);

export function filesOfInput(input: HTMLInputElement): UploadFile[] {
  return [...(input.files ?? [])].map((file) => ({ path: file.webkitRelativePath || file.name, file }));
}

export async function filesOfDrop(event: DragEvent): Promise<UploadFile[]> {
  // Entries must be taken while the event lasts.
  const entries = [...(event.dataTransfer?.items ?? [])].map((item) => item.webkitGetAsEntry());
  const found = await Promise.all(entries.map(async (entry) => (entry ? walk(entry) : [])));
  return found.flat();
}

async function walk(entry: FileSystemEntry): Promise<UploadFile[]> {
  if (entry.isFile) {
    const file = await new Promise<File>((resolve, reject) => (entry as FileSystemFileEntry).file(resolve, reject));
    return [{ path: entry.fullPath.replace(/^\//, ''), file }];
  }
  const reader = (entry as FileSystemDirectoryEntry).createReader();
  const out: UploadFile[] = [];
  // A reader gives at most a hundred entries at a time.
  for (;;) {
    const entries = await new Promise<FileSystemEntry[]>((resolve, reject) => reader.readEntries(resolve, reject));
    if (entries.length === 0) return out;
    for (const child of entries) out.push(...(await walk(child)));
  }
}
