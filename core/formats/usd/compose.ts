/**
 * Layers put together into one tree: sublayers, inherits, variants, references and payloads, the stronger one
 * winning in this order. Source: OpenUSD, "LIVERPS strength ordering" of its glossary.
 * Time offsets of references are not applied: one moment of a scene is read.
 */
import { fileName } from '../paths.ts';
import type { SceneReading } from '../scene-reading.ts';
import { decodeText } from '../text.ts';
import { editedList, emptyPrim, type UsdLayer, type UsdPrim, type UsdTarget, type UsdValue } from './layer.ts';
import { parseUsd } from './parse.ts';

/** Prims of a scene; references within references can multiply without end. */
const MOST_PRIMS = 300_000;
/** Files that refer to each other, so deep. */
const DEEPEST = 64;

interface Stack {
  file: string;
  root: UsdPrim;
}

export class UsdComposer {
  private readonly stacks = new Map<string, Promise<Stack>>();
  private prims = 0;

  constructor(private readonly reading: SceneReading) {}

  /** @returns the root with everything below it put together. Throws a RangeError naming file and line. */
  async compose(bytes: Uint8Array, file: string): Promise<UsdPrim> {
    const stack = await this.stack(file, bytes, []);
    return this.expand(stack.root, stack, null, []);
  }

  private stack(file: string, bytes: Uint8Array, chain: string[]): Promise<Stack> {
    let stack = this.stacks.get(file);
    if (!stack) {
      stack = this.readStack(file, bytes, chain);
      this.stacks.set(file, stack);
    }
    return stack;
  }

  private async readStack(file: string, bytes: Uint8Array, chain: string[]): Promise<Stack> {
    const layer = this.read(file, bytes);
    let root = layer.root;
    for (const item of editedList(root.lists.get('subLayers'))) {
      const { asset } = asTarget(item);
      if (!asset) continue;
      const { reference, bytes: found } = await this.reading.refer('sublayer', file, asset, file);
      if (!found) continue;
      const path = reference.resolved!;
      if (path === file || chain.includes(path) || chain.length > DEEPEST)
        throw new RangeError(`${file}: takes ${fileName(path)} as a sublayer, which leads back to it`);
      reference.used = true;
      root = merged(root, (await this.readStack(path, found, [...chain, file])).root);
    }
    return { file, root };
  }

  private read(file: string, bytes: Uint8Array): UsdLayer {
    const { text, notes } = decodeText(bytes, file);
    for (const note of notes) this.reading.repaired(file, note);
    return parseUsd(text, file);
  }

  /**
   * @param stronger what a file that refers here says of this prim: its variants count
   * @param chain files and prims on the way here
   */
  private async expand(prim: UsdPrim, stack: Stack, stronger: UsdPrim | null, chain: string[]): Promise<UsdPrim> {
    if (++this.prims > MOST_PRIMS)
      throw new RangeError(`${prim.where}: the scene comes to more than ${MOST_PRIMS.toLocaleString('en')} prims`);
    let local = prim;
    const inherited = [...editedList(prim.lists.get('inherits')), ...editedList(prim.lists.get('specializes'))];
    for (const item of inherited) {
      const { prim: path } = asTarget(item);
      const from = primAt(stack.root, path);
      if (from && from !== prim) local = merged(local, { ...moved(from, from.path, prim.path), specifier: 'over' });
      else this.reading.notUnderstood(prim.where, `inherits from <${path}>, which is not there`);
    }
    local = withVariants(local, stronger);
    const children = new Map<string, UsdPrim>();
    for (const [name, child] of local.children) {
      const above = stronger?.children.get(name) ?? null;
      children.set(name, await this.expand(child, stack, above, chain));
    }
    let result: UsdPrim = { ...local, children };
    for (const kind of ['references', 'payload'] as const)
      for (const item of editedList(local.lists.get(kind))) {
        const found = await this.target(asTarget(item), kind, local, stack, stronger, chain);
        if (found) result = merged(result, found);
      }
    // What led here has done its work.
    const schemas = result.lists.get('apiSchemas');
    return { ...result, lists: new Map(schemas && [['apiSchemas', schemas]]) };
  }

  /** What a reference leads to, put together, with its paths as they are here. */
  private async target(
    { asset, prim: path, file }: UsdTarget,
    kind: 'references' | 'payload',
    at: UsdPrim,
    stack: Stack,
    stronger: UsdPrim | null,
    chain: string[],
  ): Promise<UsdPrim | null> {
    let from = stack;
    if (asset) {
      const name = kind === 'references' ? 'reference' : 'payload';
      const { reference, bytes } = await this.reading.refer(name, file, asset, at.where);
      if (!bytes) return null;
      reference.used = true;
      from = await this.stack(reference.resolved!, bytes, []);
    }
    const defaultPrim = from.root.metadata.get('defaultPrim');
    const wanted = path || (typeof defaultPrim === 'string' ? `/${defaultPrim}` : '');
    const found = wanted ? primAt(from.root, wanted) : null;
    if (!found) {
      const what = wanted ? `has no prim <${wanted}>` : 'names no default prim';
      this.reading.notUnderstood(at.where, `the reference is empty: ${from.file} ${what}`);
      return null;
    }
    const key = `${from.file}<${wanted}>`;
    if (chain.includes(key) || chain.length > DEEPEST)
      throw new RangeError(`${at.where}: refers to ${key}, which leads back to it; such a circle cannot be opened`);
    const above = stronger ? merged(at, { ...stronger, lists: new Map() }) : at;
    const expanded = await this.expand(found, from, above, [...chain, key]);
    return moved(expanded, found.path, at.path);
  }
}

function asTarget(value: UsdValue): UsdTarget {
  if (value && typeof value === 'object' && 'kind' in value && value.kind === 'target') return value;
  return { kind: 'target', asset: '', prim: '', file: '' };
}

export function primAt(root: UsdPrim, path: string): UsdPrim | null {
  let prim: UsdPrim | undefined = root;
  for (const name of path.split('/').filter(Boolean)) prim = prim?.children.get(name);
  return prim ?? null;
}

/** A prim with what its chosen variants say, weaker than itself; variants may hold further sets. */
function withVariants(prim: UsdPrim, stronger: UsdPrim | null): UsdPrim {
  let out = prim;
  const done = new Set<string>();
  for (;;) {
    const next = [...out.variantSets.keys()].find((name) => !done.has(name));
    if (next === undefined) return out;
    done.add(next);
    const chosen = selection(stronger, next) ?? selection(out, next);
    const variant = chosen === null ? undefined : out.variantSets.get(next)!.get(chosen);
    if (variant) out = merged(out, variant);
  }
}

function selection(prim: UsdPrim | null, set: string): string | null {
  const variants = prim?.metadata.get('variants');
  if (!variants || typeof variants !== 'object' || !('kind' in variants) || variants.kind !== 'dictionary') return null;
  const chosen = variants.entries.get(set);
  return typeof chosen === 'string' ? chosen : null;
}

/** Both opinions of one prim. */
export function merged(strong: UsdPrim, weak: UsdPrim): UsdPrim {
  const out = emptyPrim(
    strong.specifier === 'over' ? weak.specifier : strong.specifier,
    strong.type || weak.type,
    strong.path,
    strong.specifier === 'over' && weak.specifier === 'def' ? weak.where : strong.where,
  );
  out.metadata = new Map([...weak.metadata, ...strong.metadata]);
  const variants = mergedDictionary(strong.metadata.get('variants'), weak.metadata.get('variants'));
  if (variants) out.metadata.set('variants', variants);
  out.lists = new Map(weak.lists);
  for (const [name, edits] of strong.lists) out.lists.set(name, [...(weak.lists.get(name) ?? []), ...edits]);
  out.attributes = new Map(weak.attributes);
  for (const [name, own] of strong.attributes) {
    const other = weak.attributes.get(name);
    if (!other) {
      out.attributes.set(name, own);
      continue;
    }
    const says = own.value !== undefined || own.samples !== null;
    out.attributes.set(name, {
      ...own,
      value: says ? own.value : other.value,
      samples: says ? own.samples : other.samples,
      connections: own.connections ?? other.connections,
      interpolation: own.interpolation ?? other.interpolation,
      colourSpace: own.colourSpace ?? other.colourSpace,
    });
  }
  out.relationships = new Map([...weak.relationships, ...strong.relationships]);
  out.variantSets = new Map(weak.variantSets);
  for (const [name, own] of strong.variantSets) {
    const all = new Map(weak.variantSets.get(name) ?? []);
    for (const [choice, variant] of own) {
      const other = all.get(choice);
      all.set(choice, other ? merged(variant, other) : variant);
    }
    out.variantSets.set(name, all);
  }
  out.children = new Map(weak.children);
  for (const [name, child] of strong.children) {
    const other = weak.children.get(name);
    out.children.set(name, other ? merged(child, other) : child);
  }
  return out;
}

function mergedDictionary(strong: UsdValue | undefined, weak: UsdValue | undefined): UsdValue | null {
  const entriesOf = (value: UsdValue | undefined) =>
    value && typeof value === 'object' && 'kind' in value && value.kind === 'dictionary' ? value.entries : null;
  const [a, b] = [entriesOf(strong), entriesOf(weak)];
  return a || b ? { kind: 'dictionary', entries: new Map([...(b ?? []), ...(a ?? [])]) } : null;
}

/** The tree with the paths in it that lead below `from` leading below `to`. */
function moved(prim: UsdPrim, from: string, to: string): UsdPrim {
  if (from === to) return prim;
  const move = (path: string) =>
    path === from || path.startsWith(`${from}/`) || path.startsWith(`${from}.`) ? to + path.slice(from.length) : path;
  const walk = (one: UsdPrim): UsdPrim => ({
    ...one,
    path: move(one.path),
    attributes: mapped(one.attributes, (a) => (a.connections ? { ...a, connections: a.connections.map(move) } : a)),
    relationships: mapped(one.relationships, (r) => ({ ...r, targets: r.targets.map(move) })),
    children: mapped(one.children, walk),
  });
  return { ...walk(prim), name: to.slice(to.lastIndexOf('/') + 1) };
}

/** Every value changed; an empty map stays itself. */
function mapped<T>(map: Map<string, T>, change: (value: T) => T): Map<string, T> {
  if (map.size === 0) return map;
  const out = new Map<string, T>();
  for (const [name, value] of map) out.set(name, change(value));
  return out;
}
