/** Every file that a scene needs, by whom, and whether it will travel. */
import { breaksOf } from './breaks.ts';
import { Owners } from './owners.ts';
import { readImageHeader } from '../../formats/image-header.ts';
import type { IntakeFile } from '../../contracts/intake.ts';
import type { ShotDocument } from '../../document/schema.ts';
import type { SourceScene } from '../../formats/source-scene.ts';

type FileState = IntakeFile['state'];

export interface FileList {
  files: IntakeFile[];
  totalBytes: number;
}

/** From the worst: what stands first counts where several places name a file. */
const WORST: FileState[] = ['missing', 'unreadable', 'outside', 'absolute', 'case', 'ok'];

/** @param document where the scene is a shot of ours */
export function listFiles(source: SourceScene, document: ShotDocument | null): FileList {
  const files = new Map<string, IntakeFile>();
  files.set(source.file, {
    path: source.file,
    kind: 'scene',
    neededBy: [],
    state: 'ok',
    bytes: source.bytes,
    used: true,
    breaks: [],
  });
  const unreadable = new Set(
    source.images.filter(({ bytes }) => bytes && !readImageHeader(bytes)).map(({ resolved }) => resolved),
  );
  const owners = new Owners(source, document);
  for (const reference of source.references) {
    const { kind, path, neededBy, resolved, bytes, state, used } = reference;
    const breaks = breaksOf(owners, reference);
    const key = resolved ?? path;
    const own = kind === 'image' && unreadable.has(resolved) ? 'unreadable' : state;
    const known = files.get(key);
    if (!known) {
      files.set(key, { path: key, kind, neededBy: [neededBy], state: own, bytes, used, breaks });
      continue;
    }
    if (!known.neededBy.includes(neededBy)) known.neededBy.push(neededBy);
    if (WORST.indexOf(own) < WORST.indexOf(known.state)) known.state = own;
    known.used ||= used;
    for (const { look, objects } of breaks) {
      const same = known.breaks.find((one) => one.look === look);
      if (same) same.objects = [...new Set([...same.objects, ...objects])];
      else known.breaks.push({ look, objects });
    }
  }
  const list = [...files.values()];
  return { files: list, totalBytes: list.reduce((sum, { bytes }) => sum + bytes, 0) };
}

/** What the states of a list come to: files that are not there stop a shot, paths that will not travel are a caution. */
export function stateOfFiles({ files }: FileList): 'clear' | 'caution' | 'stop' {
  if (files.some(({ state }) => state === 'missing' || state === 'unreadable')) return 'stop';
  return files.some(({ state }) => state !== 'ok') ? 'caution' : 'clear';
}
