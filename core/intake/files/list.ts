/** Every file that a scene needs, by whom, and whether it will travel. */
import { readImageHeader } from '../../formats/image-header.ts';
import type { SourceReference, SourceScene } from '../../formats/source-scene.ts';

export type FileState = SourceReference['state'];

export interface NeededFile {
  /** Below the scene's folder; as written where it leads elsewhere or nowhere. */
  path: string;
  kind: SourceReference['kind'] | 'scene';
  /** Files and places that name it. */
  neededBy: string[];
  state: FileState;
  bytes: number;
  /** Whether anything of it is in the scene. */
  used: boolean;
}

export interface FileList {
  files: NeededFile[];
  totalBytes: number;
}

/** From the worst: what stands first counts where several places name a file. */
const WORST: FileState[] = ['missing', 'unreadable', 'outside', 'absolute', 'case', 'ok'];

export function listFiles(source: SourceScene): FileList {
  const files = new Map<string, NeededFile>();
  files.set(source.file, {
    path: source.file,
    kind: 'scene',
    neededBy: [],
    state: 'ok',
    bytes: source.bytes,
    used: true,
  });
  const unreadable = new Set(
    source.images.filter(({ bytes }) => bytes && !readImageHeader(bytes)).map(({ resolved }) => resolved),
  );
  for (const { kind, path, neededBy, resolved, bytes, state, used } of source.references) {
    const key = resolved ?? path;
    const own = kind === 'image' && unreadable.has(resolved) ? 'unreadable' : state;
    const known = files.get(key);
    if (!known) {
      files.set(key, { path: key, kind, neededBy: [neededBy], state: own, bytes, used });
      continue;
    }
    if (!known.neededBy.includes(neededBy)) known.neededBy.push(neededBy);
    if (WORST.indexOf(own) < WORST.indexOf(known.state)) known.state = own;
    known.used ||= used;
  }
  const list = [...files.values()];
  return { files: list, totalBytes: list.reduce((sum, { bytes }) => sum + bytes, 0) };
}

/** What the states of a list come to: files that are not there stop a shot, paths that will not travel are a caution. */
export function stateOfFiles({ files }: FileList): 'clear' | 'caution' | 'stop' {
  if (files.some(({ state }) => state === 'missing' || state === 'unreadable')) return 'stop';
  return files.some(({ state }) => state !== 'ok') ? 'caution' : 'clear';
}
