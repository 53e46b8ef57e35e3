/**
 * The chain from a scene through objects, meshes, materials and further documents to files on disk, as a graph
 * without circles: objects that wear the same are one node, and a node may hang below several.
 *
 * @example
 * const nodes = chainOf(source, document);   // the first is the scene
 */
import type { ChainNode, IntakeFile } from '../../contracts/intake.ts';
import type { ShotDocument } from '../../document/schema.ts';
import type { SourceReference, SourceScene } from '../../formats/source-scene.ts';
import { listFiles } from './list.ts';
import { fileOf, Owners } from './owners.ts';

export function chainOf(source: SourceScene, document: ShotDocument | null): ChainNode[] {
  return new Chain(source, document).build();
}

class Chain {
  private readonly nodes = new Map<string, ChainNode>();
  private readonly files: Map<string, IntakeFile>;

  constructor(
    private readonly source: SourceScene,
    private readonly document: ShotDocument | null,
  ) {
    this.files = new Map(listFiles(source, document).files.map((file) => [file.path, file]));
  }

  build(): ChainNode[] {
    const { source } = this;
    const root = this.file(source.file);
    const groupOf = this.groups(root);
    const owners = new Owners(source, this.document);
    const materialNode = (m: number) => `material ${m}`;
    for (const reference of source.references) {
      const { objects, materials, parts, worn, lights } = owners.of(reference);
      const file = this.file(reference.resolved ?? reference.path, reference);
      const above = new Set<string>();
      for (const m of [...materials, ...parts, ...worn.seen, ...worn.other]) above.add(materialNode(m));
      for (const path of objects) {
        const group = groupOf.get(path) ?? this.gone(root, path);
        above.add(this.meshBelow(group) ?? group);
      }
      if (lights) above.add(this.add('environment', 'environment', 'environment', root));
      // What nothing comes from hangs below the file that names it.
      if (above.size === 0) above.add(this.nodes.has(fileOf(reference.neededBy)) ? fileOf(reference.neededBy) : root);
      for (const id of above) if (this.nodes.has(id)) this.link(id, file);
    }
    this.weigh(root, new Map());
    return [...this.nodes.values()];
  }

  /** Nodes of objects by what they wear, with their meshes and materials below. @returns the node of each object */
  private groups(root: string): Map<string, string> {
    const { nodes, meshes, materials } = this.source;
    const groupOf = new Map<string, string>();
    const first = new Map<string, ChainNode>();
    for (const { path, mesh, parts } of nodes) {
      if (mesh < 0) continue;
      const worn = [...new Set(parts.map(({ material }) => material))];
      const id = `objects ${mesh} ${worn.join(' ')}`;
      groupOf.set(path, id);
      const known = first.get(id);
      if (known) {
        known.count += 1;
        continue;
      }
      this.add(id, 'object', path, root);
      first.set(id, this.nodes.get(id)!);
      this.add(`mesh ${mesh}`, 'mesh', meshes[mesh].name || 'mesh', id);
      for (const m of worn) if (m >= 0) this.add(`material ${m}`, 'material', materials[m].name || 'material', id);
    }
    return groupOf;
  }

  private meshBelow(group: string): string | null {
    return this.nodes.get(group)?.children.find((id) => id.startsWith('mesh ')) ?? null;
  }

  /** An object whose shape is not there stands in the chain all the same. */
  private gone(root: string, path: string): string {
    return this.add(`gone ${path}`, 'object', path, root);
  }

  private file(path: string, reference?: SourceReference): string {
    if (!this.nodes.has(path)) {
      const known = this.files.get(path);
      this.nodes.set(path, {
        id: path,
        kind: reference?.kind ?? 'scene',
        label: path,
        state: known?.state ?? reference?.state ?? 'ok',
        count: 1,
        bytes: known?.bytes ?? 0,
        total: 0,
        children: [],
      });
    }
    return path;
  }

  private add(id: string, kind: ChainNode['kind'], label: string, below: string): string {
    if (!this.nodes.has(id))
      this.nodes.set(id, { id, kind, label, state: 'ok', count: 1, bytes: 0, total: 0, children: [] });
    this.link(below, id);
    return id;
  }

  private link(above: string, below: string): void {
    const { children } = this.nodes.get(above)!;
    if (above !== below && !children.includes(below) && !this.leadsTo(below, above)) children.push(below);
  }

  private leadsTo(from: string, to: string): boolean {
    return from === to || this.nodes.get(from)!.children.some((child) => this.leadsTo(child, to));
  }

  /** Bytes of each branch, a file in it once; @returns the files below */
  private weigh(id: string, known: Map<string, Set<string>>): Set<string> {
    const before = known.get(id);
    if (before) return before;
    const node = this.nodes.get(id)!;
    const files = new Set<string>(node.bytes ? [id] : []);
    for (const child of node.children) for (const file of this.weigh(child, known)) files.add(file);
    node.total = [...files].reduce((sum, file) => sum + this.nodes.get(file)!.bytes, 0);
    known.set(id, files);
    return files;
  }
}
