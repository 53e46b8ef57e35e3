/**
 * What a glTF file's JSON claims, held against what is there, before memory is taken for it. Source: Khronos,
 * "glTF 2.0 specification", sections 3.5 (nodes), 3.6 (binary data) and 3.12 (extensions).
 */

export interface GltfJson {
  asset?: { version?: string; minVersion?: string };
  extensionsUsed?: string[];
  extensionsRequired?: string[];
  scene?: number;
  scenes?: { nodes?: number[] }[];
  nodes?: { name?: string; children?: number[]; mesh?: number; skin?: number; extensions?: Record<string, unknown> }[];
  meshes?: { name?: string; primitives: GltfPrimitive[]; weights?: number[] }[];
  accessors?: {
    bufferView?: number;
    byteOffset?: number;
    count: number;
    type: string;
    componentType: number;
    sparse?: {
      count: number;
      indices: { bufferView: number; byteOffset?: number; componentType: number };
      values: { bufferView: number; byteOffset?: number };
    };
  }[];
  bufferViews?: { buffer: number; byteOffset?: number; byteLength: number; byteStride?: number }[];
  buffers?: { uri?: string; byteLength: number; extensions?: Record<string, { fallback?: boolean }> }[];
  images?: { uri?: string; name?: string; bufferView?: number; mimeType?: string }[];
  textures?: { source?: number; extensions?: Record<string, unknown> }[];
  materials?: object[];
  animations?: { channels?: { target?: { node?: number; path?: string; extensions?: Record<string, unknown> } }[] }[];
  skins?: object[];
}

export interface GltfPrimitive {
  attributes: Record<string, number>;
  indices?: number;
  mode?: number;
  material?: number;
  targets?: object[];
  extensions?: Record<string, unknown>;
}

const WIDTHS: Record<string, number> = { SCALAR: 1, VEC2: 2, VEC3: 3, VEC4: 4, MAT2: 4, MAT3: 9, MAT4: 16 };
const BYTES: Record<number, number> = { 5120: 1, 5121: 1, 5122: 2, 5123: 2, 5125: 4, 5126: 4 };
/** Elements of an accessor without data of its own, which stands for zeros. */
const MOST_ZEROS = 2 ** 24;

/** @throws RangeError that names the file and the place in its JSON */
export function checkGltf(json: GltfJson, file: string, readable: Set<string>): void {
  const fail = (place: string, what: string): never => {
    throw new RangeError(`${file} ${place}: ${what}`);
  };
  if (!json || typeof json !== 'object' || Array.isArray(json)) fail('', 'is not a glTF object');
  checkShape(json, fail);
  const version = json.asset?.minVersion ?? json.asset?.version ?? 'none';
  if (!/^2\./.test(version)) fail('asset.version', `is ${version}; only glTF 2 is read`);
  for (const name of json.extensionsRequired ?? [])
    if (!readable.has(name)) fail('extensionsRequired', `needs "${name}", which is not read here`);
  checkBuffers(json, fail);
  checkNodes(json, fail);
  (json.meshes ?? []).forEach(({ primitives }, m) =>
    (primitives ?? fail(`meshes[${m}]`, 'has no primitives')).forEach(({ attributes, indices }, p) => {
      for (const [name, accessor] of [...Object.entries(attributes ?? {}), ['indices', indices] as const])
        if (accessor !== undefined && !json.accessors?.[accessor])
          fail(`meshes[${m}].primitives[${p}]`, `its ${name} are accessor ${accessor}, which is not there`);
    }),
  );
}

/** Lists of objects, and lists within their items, that everything after takes for what they are called. */
const LISTS: Record<string, string[]> = {
  accessors: [],
  animations: ['channels', 'samplers'],
  bufferViews: [],
  buffers: [],
  images: [],
  materials: [],
  meshes: ['primitives'],
  nodes: [],
  samplers: [],
  scenes: [],
  skins: [],
  textures: [],
};
/** Lists of numbers within items. */
const NUMBERS: Record<string, string[]> = { nodes: ['children', 'matrix', 'rotation', 'scale', 'translation'], scenes: ['nodes'], meshes: ['weights'] }; // prettier-ignore

function checkShape(json: object, fail: (place: string, what: string) => never): void {
  const objects = (value: unknown, place: string): Record<string, unknown>[] => {
    if (!Array.isArray(value)) return fail(place, 'is not a list');
    value.forEach((item: unknown, i) => {
      if (typeof item !== 'object' || item === null || Array.isArray(item)) fail(`${place}[${i}]`, 'is not an object');
    });
    return value as Record<string, unknown>[];
  };
  const root = json as Record<string, unknown>;
  for (const [key, within] of Object.entries(LISTS)) {
    if (root[key] === undefined) continue;
    objects(root[key], key).forEach((item, i) => {
      for (const inner of within) if (item[inner] !== undefined) objects(item[inner], `${key}[${i}].${inner}`);
      for (const inner of NUMBERS[key] ?? []) {
        const list = item[inner];
        if (list !== undefined && !(Array.isArray(list) && list.every((n) => typeof n === 'number')))
          fail(`${key}[${i}].${inner}`, 'is not a list of numbers');
      }
    });
  }
}

function checkBuffers(json: GltfJson, fail: (place: string, what: string) => never): void {
  (json.bufferViews ?? []).forEach((view, i) => {
    const buffer = json.buffers?.[view.buffer];
    if (!buffer) fail(`bufferViews[${i}]`, `lies in buffer ${view.buffer}, which is not there`);
    if ((view.byteOffset ?? 0) + view.byteLength > buffer!.byteLength)
      fail(`bufferViews[${i}]`, `ends after the ${buffer!.byteLength} bytes of buffer ${view.buffer}`);
  });
  (json.accessors ?? []).forEach((accessor, i) => {
    const place = `accessors[${i}]`;
    const width = WIDTHS[accessor.type] ?? fail(place, `is of type "${accessor.type}"`);
    const size = BYTES[accessor.componentType] ?? fail(place, `has component type ${accessor.componentType}`);
    const fits = (what: string, bufferView: number, offset: number, count: number, element: number) => {
      const view = json.bufferViews?.[bufferView];
      if (!view) fail(place, `lies in buffer view ${bufferView}, which is not there`);
      const stride = view!.byteStride || element;
      if (offset + (count - 1) * stride + element > view!.byteLength)
        fail(place, `claims ${count.toLocaleString('en')} ${what}, more than the ${view!.byteLength.toLocaleString('en')} bytes it lies in`); // prettier-ignore
    };
    if (!Number.isInteger(accessor.count) || accessor.count < 1) fail(place, `has a count of ${accessor.count}`);
    if (accessor.bufferView !== undefined)
      fits('elements', accessor.bufferView, accessor.byteOffset ?? 0, accessor.count, width * size);
    else if (accessor.count > MOST_ZEROS && !json.extensionsUsed?.includes('KHR_draco_mesh_compression'))
      fail(place, `claims ${accessor.count.toLocaleString('en')} elements without any data`);
    if (accessor.sparse) {
      const { count, indices, values } = accessor.sparse;
      fits('sparse indices', indices.bufferView, indices.byteOffset ?? 0, count, BYTES[indices.componentType] ?? 4);
      fits('sparse values', values.bufferView, values.byteOffset ?? 0, count, width * size);
    }
  });
}

function checkNodes(json: GltfJson, fail: (place: string, what: string) => never): void {
  const nodes = json.nodes ?? [];
  const parents = new Int32Array(nodes.length).fill(-1);
  nodes.forEach(({ children = [] }, parent) => {
    for (const child of children) {
      if (!nodes[child]) fail(`nodes[${parent}]`, `has node ${child} as a child, which is not there`);
      if (parents[child] >= 0 && parents[child] !== parent)
        fail(`nodes[${child}]`, `is a child of node ${parents[child]} and of node ${parent}; nodes have one parent`);
      parents[child] = parent;
    }
  });
  for (let start = 0; start < nodes.length; start++) {
    let steps = 0;
    for (let at = start; at >= 0; at = parents[at])
      if (++steps > nodes.length) fail(`nodes[${start}]`, 'is below itself: its parents go round in a circle');
  }
}
