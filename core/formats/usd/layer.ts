/** What the text of one USD layer says, before layers are put together. Source: OpenUSD, "USDA file format". */

/** Numbers of one width, flat: `[(0, 0, 1), (1, 0, 0)]` is two of width 3. */
export interface UsdNumbers {
  kind: 'numbers';
  width: number;
  values: Float64Array;
}

/** A file, or a prim, or a prim of a file. */
export interface UsdTarget {
  kind: 'target';
  /** As written; empty: this layer. */
  asset: string;
  /** Empty: the file's default prim. */
  prim: string;
  /** The file that says so: its paths count from there. */
  file: string;
}

export interface UsdDictionary {
  kind: 'dictionary';
  entries: Map<string, UsdValue>;
}

export type UsdValue = null | boolean | number | string | UsdNumbers | UsdTarget | UsdDictionary | UsdValue[];

export type ListOp = 'explicit' | 'prepend' | 'append' | 'add' | 'delete' | 'reorder';

/** What one layer does to a list. */
export interface ListEdit {
  op: ListOp;
  items: UsdValue[];
}

export interface UsdAttribute {
  type: string;
  /** Undefined: not said here. */
  value: UsdValue | undefined;
  samples: { time: number; value: UsdValue }[] | null;
  /** Paths of what it is connected to. */
  connections: string[] | null;
  interpolation: string | null;
  colourSpace: string | null;
  where: string;
}

export interface UsdRelationship {
  targets: string[];
  where: string;
}

export interface UsdPrim {
  specifier: 'def' | 'over' | 'class';
  type: string;
  name: string;
  /** From the root: `/yard/hive`; empty for the root. */
  path: string;
  where: string;
  metadata: Map<string, UsdValue>;
  /** Lists that layers edit: references, payload, inherits, apiSchemas … weakest edit first. */
  lists: Map<string, ListEdit[]>;
  attributes: Map<string, UsdAttribute>;
  relationships: Map<string, UsdRelationship>;
  variantSets: Map<string, Map<string, UsdPrim>>;
  children: Map<string, UsdPrim>;
}

/** The layer itself is a prim without a name: its metadata are the layer's. */
export interface UsdLayer {
  file: string;
  root: UsdPrim;
}

export const emptyPrim = (specifier: UsdPrim['specifier'], type: string, path: string, where: string): UsdPrim => ({
  specifier,
  type,
  name: path.slice(path.lastIndexOf('/') + 1),
  path,
  where,
  metadata: new Map(),
  lists: new Map(),
  attributes: new Map(),
  relationships: new Map(),
  variantSets: new Map(),
  children: new Map(),
});

/** The list that edits, weakest first, come to. */
export function editedList(edits: ListEdit[] | undefined): UsdValue[] {
  let list: UsdValue[] = [];
  const key = (value: UsdValue) => JSON.stringify(value);
  for (const { op, items } of edits ?? []) {
    const own = new Set(items.map(key));
    const others = list.filter((item) => !own.has(key(item)));
    if (op === 'explicit') list = items;
    else if (op === 'prepend') list = [...items, ...others];
    else if (op === 'delete') list = others;
    else if (op !== 'reorder') list = [...others, ...items];
  }
  return list;
}
