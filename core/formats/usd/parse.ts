/**
 * The text form of a USD layer. Source: OpenUSD, "USDA file format" and its grammar in `textFileFormat`.
 *
 * @example
 * const layer = parseUsd('#usda 1.0\ndef Xform "yard" {}', 'yard.usda');
 */
import {
  emptyPrim,
  type ListEdit,
  type ListOp,
  type UsdAttribute,
  type UsdLayer,
  type UsdPrim,
  type UsdTarget,
  type UsdValue,
} from './layer.ts';
import { UsdScanner } from './scanner.ts';

const LIST_OPS = new Set<string>(['prepend', 'append', 'add', 'delete', 'reorder']);
/** Prims within prims; what is deeper was not made by people. */
const DEEPEST = 200;

/** @throws RangeError that names file and line */
export function parseUsd(text: string, file: string): UsdLayer {
  if (!text.startsWith('#usda '))
    throw new RangeError(
      text.startsWith('PXR-USDC')
        ? `${file}: is binary USD; only its text form is read. Save it as .usda.`
        : `${file}: does not begin with "#usda 1.0", as USD text does`,
    );
  return { file, root: new UsdParser(new UsdScanner(text, file), file).layer() };
}

class UsdParser {
  constructor(
    private readonly scan: UsdScanner,
    private readonly file: string,
  ) {}

  layer(): UsdPrim {
    const root = emptyPrim('def', '', '', this.file);
    if (this.scan.peek() === '(') this.metadata(root);
    while (!this.scan.atEnd) this.prim(root, this.scan.word() ?? this.scan.fail('def, over or class'), 0);
    return root;
  }

  private prim(parent: UsdPrim, keyword: string, depth: number): void {
    const { scan } = this;
    if (depth > DEEPEST) throw new RangeError(`${scan.where}: prims stand in each other more than ${DEEPEST} deep`);
    if (keyword === 'reorder') {
      scan.word();
      scan.need('=');
      this.value();
      return;
    }
    if (keyword !== 'def' && keyword !== 'over' && keyword !== 'class') {
      scan.back(keyword);
      return scan.fail('def, over or class');
    }
    const type = scan.word() ?? '';
    const where = scan.where;
    const name = scan.string();
    if (!/^[A-Za-z_]\w*$/.test(name)) throw new RangeError(`${where}: "${name}" is no name of a prim`);
    const prim = emptyPrim(keyword, type, `${parent.path}/${name}`, where);
    if (scan.peek() === '(') this.metadata(prim);
    scan.need('{');
    this.body(prim, depth + 1);
    parent.children.set(prim.name, prim);
  }

  private body(prim: UsdPrim, depth: number): void {
    const { scan } = this;
    while (!scan.take('}')) {
      const word = scan.word() ?? scan.fail('a property, a prim or "}"');
      if (word === 'def' || word === 'over' || word === 'class') this.prim(prim, word, depth);
      else if (word === 'variantSet') this.variantSet(prim, depth);
      else if (word === 'reorder') {
        scan.word();
        scan.need('=');
        this.value();
      } else this.property(prim, word);
    }
  }

  private variantSet(prim: UsdPrim, depth: number): void {
    const { scan } = this;
    const name = scan.string();
    const variants = new Map<string, UsdPrim>();
    scan.need('=');
    scan.need('{');
    while (!scan.take('}')) {
      const where = scan.where;
      const variant = emptyPrim('over', '', prim.path, where);
      const choice = scan.string();
      if (scan.peek() === '(') this.metadata(variant);
      scan.need('{');
      this.body(variant, depth + 1);
      variants.set(choice, variant);
    }
    prim.variantSets.set(name, variants);
  }

  private property(prim: UsdPrim, first: string): void {
    const { scan } = this;
    const where = scan.where;
    let word = first;
    let op: ListOp = 'explicit';
    while (word === 'custom' || word === 'uniform' || word === 'varying' || LIST_OPS.has(word)) {
      if (LIST_OPS.has(word)) op = word as ListOp;
      word = scan.word() ?? scan.fail('a type');
    }
    if (word === 'rel') {
      this.relationship(prim, op, where);
      return;
    }
    const type = word + (scan.take('[') ? (scan.need(']'), '[]') : '');
    const full = scan.word() ?? scan.fail('the name of a property');
    const suffix = /\.(connect|timeSamples)$/.exec(full)?.[1];
    const name = suffix ? full.slice(0, -suffix.length - 1) : full;
    const attribute: UsdAttribute = prim.attributes.get(name) ?? {
      type,
      value: undefined,
      samples: null,
      connections: null,
      interpolation: null,
      colourSpace: null,
      where,
    };
    prim.attributes.set(name, attribute);
    if (scan.take('=')) {
      if (suffix === 'connect') attribute.connections = this.targets().filter((path) => op !== 'delete' || !path);
      else if (suffix === 'timeSamples') attribute.samples = this.samples();
      else attribute.value = this.value();
    }
    if (scan.peek() === '(') {
      const own = emptyPrim('over', '', '', where);
      this.metadata(own);
      const text = (key: string) => {
        const value = own.metadata.get(key);
        return typeof value === 'string' ? value : null;
      };
      attribute.interpolation = text('interpolation') ?? attribute.interpolation;
      attribute.colourSpace = text('colorSpace') ?? attribute.colourSpace;
    }
  }

  private relationship(prim: UsdPrim, op: ListOp, where: string): void {
    const { scan } = this;
    const name = scan.word() ?? scan.fail('the name of a relationship');
    const targets = scan.take('=') ? this.targets() : [];
    if (scan.peek() === '(') this.metadata(emptyPrim('over', '', '', where));
    const before = prim.relationships.get(name)?.targets ?? [];
    if (op === 'delete') return;
    prim.relationships.set(name, { targets: op === 'explicit' ? targets : [...before, ...targets], where });
  }

  private targets(): string[] {
    const value = this.value();
    const list = Array.isArray(value) ? value : value === null ? [] : [value];
    return list.map((item) =>
      item && typeof item === 'object' && 'prim' in item ? item.prim : this.scan.fail('paths in < > before this'),
    );
  }

  private samples(): UsdAttribute['samples'] {
    const { scan } = this;
    const samples: { time: number; value: UsdValue }[] = [];
    scan.need('{');
    while (!scan.take('}')) {
      const time = scan.number() ?? scan.fail('a time');
      scan.need(':');
      samples.push({ time, value: this.value() });
      scan.take(',');
    }
    return samples.sort((a, b) => a.time - b.time);
  }

  private metadata(prim: UsdPrim): void {
    const { scan } = this;
    scan.need('(');
    while (!scan.take(')')) {
      if (scan.peek() === '"' || scan.peek() === "'") {
        prim.metadata.set('comment', scan.string());
        continue;
      }
      let word = scan.word() ?? scan.fail('a key of metadata or ")"');
      let op: ListOp = 'explicit';
      if (LIST_OPS.has(word)) {
        op = word as ListOp;
        word = scan.word() ?? scan.fail('a key of metadata');
      }
      scan.need('=');
      const value = this.value();
      if (op !== 'explicit' || LISTS.has(word)) {
        const items = Array.isArray(value) ? value : value === null ? [] : [value];
        const edit: ListEdit = { op, items };
        prim.lists.set(word, [...(prim.lists.get(word) ?? []), edit]);
      } else prim.metadata.set(word, value);
      scan.take(',');
    }
  }

  private value(): UsdValue {
    const { scan } = this;
    const sign = scan.peek();
    if (sign === '"' || sign === "'") return scan.string();
    if (sign === '@') {
      const target: UsdTarget = { kind: 'target', asset: scan.asset(), prim: '', file: this.file };
      if (scan.peek() === '<') target.prim = scan.path();
      this.offset();
      return target;
    }
    if (sign === '<') {
      const target: UsdTarget = { kind: 'target', asset: '', prim: scan.path(), file: this.file };
      this.offset();
      return target;
    }
    if (sign === '[') return this.array();
    if (sign === '(') return this.tuple();
    if (sign === '{') return this.dictionary();
    const number = scan.number();
    if (number !== null) return number;
    const word = scan.word() ?? scan.fail('a value');
    if (word === 'None') return null;
    return word === 'true' || word === 'false' ? word === 'true' : word;
  }

  /** A time offset after a reference moves animation, of which one moment is read. */
  private offset(): void {
    if (this.scan.peek() === '(') this.metadata(emptyPrim('over', '', '', ''));
  }

  private tuple(): UsdValue {
    const { scan } = this;
    const values: number[] = [];
    const read = () => {
      scan.need('(');
      while (!scan.take(')')) {
        if (scan.peek() === '(') read();
        else values.push(scan.number() ?? scan.fail('a number or ")"'));
        scan.take(',');
      }
    };
    read();
    return { kind: 'numbers', width: values.length, values: Float64Array.from(values) };
  }

  private array(): UsdValue {
    const { scan } = this;
    scan.need('[');
    if (/[-+.\d(]/.test(scan.peek())) return scan.numbers();
    const list: UsdValue[] = [];
    while (!scan.take(']')) {
      list.push(this.value());
      scan.take(',');
    }
    return list;
  }

  private dictionary(): UsdValue {
    const { scan } = this;
    const entries = new Map<string, UsdValue>();
    scan.need('{');
    while (!scan.take('}')) {
      // `string a = "b"`, `dictionary "a" = {…}` or `"a": b`.
      let key = scan.peek() === '"' || scan.peek() === "'" ? scan.string() : null;
      if (key === null) {
        const type = scan.word() ?? scan.fail('a type or a key');
        if (scan.take('[')) scan.need(']');
        key = scan.peek() === '"' ? scan.string() : (scan.word() ?? type);
      }
      if (!scan.take('=')) scan.need(':');
      entries.set(key, this.value());
      scan.take(',');
    }
    return { kind: 'dictionary', entries };
  }
}

/** Metadata that are lists even where one thing stands alone. */
const LISTS = new Set(['references', 'payload', 'inherits', 'specializes', 'apiSchemas', 'variantSets', 'subLayers']);
