/**
 * What the channels of a picture are, by the names that renderers give them: `R`, `beauty.R`, `diffuse.direct.G`, `N.X`,
 * `depth.Z`, `crypto_object00.r`. A layer is what stands before the last dot.
 *
 * @example
 * layersOf(['R', 'G', 'B', 'N.X', 'N.Y', 'N.Z']).map(({ name, role }) => [name, role]);   // [['', 'beauty'], ['N', 'data']]
 */
export type LayerRole = 'beauty' | 'light' | 'light group' | 'data' | 'matte' | 'noise' | 'other';

export interface Layer {
  /** Empty for channels without one. */
  name: string;
  /** Names of its channels, colours in their order, then the rest. */
  channels: string[];
  role: LayerRole;
}

const ORDER = ['r', 'g', 'b', 'a', 'red', 'green', 'blue', 'alpha', 'x', 'y', 'z', 'u', 'v', 'w'];
const DATA =
  /(^|[._ -])(n|p|z|uv|st|normals?|position|depth|motion|velocity|vector|albedo|crossings|object|material|id|coverage|samples|cost|time)([._ -]|\d|$)/i;
const MATTE = /crypto|matte|mask/i;
const NOISE = /(^|[._ -])(error|variance|noise|stddev|half\d|cut|clamped|brightest)([._ -]|$)/i;
const LIGHT = /(^|[._ -])(diffuse|specular|transmission|refraction|reflection|glossy|volume|emission|emissive|background|environment|direct|indirect|subsurface|sss|coat|sheen|caustics?|lighting)([._ -]|$)/i; // prettier-ignore
const GROUP = /(^|[._ -])(group|lightgroup|lgt|lg)([._ -]|\d|$)/i;
const BEAUTY = /^(|rgba?|beauty|combined|c|composite)$/i;

export function layersOf(names: Iterable<string>): Layer[] {
  const layers = new Map<string, string[]>();
  for (const name of names) {
    const dot = name.lastIndexOf('.');
    const layer = dot < 0 && !isColour(name) ? name : name.slice(0, Math.max(0, dot));
    const own = layers.get(layer);
    if (own) own.push(name);
    else layers.set(layer, [name]);
  }
  const place = (name: string): number => {
    const at = ORDER.indexOf(name.slice(name.lastIndexOf('.') + 1).toLowerCase());
    return at < 0 ? ORDER.length : at;
  };
  const found = [...layers].map(([name, channels]) => ({
    name,
    channels: channels.sort((a, b) => place(a) - place(b) || (a < b ? -1 : 1)),
    role: roleOf(name),
  }));
  // Where channels stand without a layer and there is a layer called beauty, the layer is a copy.
  const isTwice =
    found.some(({ name }) => name === '') && found.some(({ name, role }) => name !== '' && role === 'beauty');
  return found.map((layer) =>
    isTwice && layer.role === 'beauty' && layer.name !== '' ? { ...layer, role: 'other' } : layer,
  );
}

const isColour = (name: string): boolean => /^(r|g|b|a|red|green|blue|alpha)$/i.test(name);

function roleOf(name: string): LayerRole {
  if (BEAUTY.test(name)) return 'beauty';
  if (MATTE.test(name)) return 'matte';
  if (NOISE.test(name)) return 'noise';
  if (GROUP.test(name)) return 'light group';
  if (LIGHT.test(name)) return 'light';
  return DATA.test(name) ? 'data' : 'other';
}

/** Its red, green and blue, or null where it has none. */
export function coloursOf({ channels }: Layer): [string, string, string] | null {
  const find = (...suffixes: string[]) =>
    channels.find((name) => suffixes.includes(name.slice(name.lastIndexOf('.') + 1).toLowerCase()));
  const [r, g, b] = [find('r', 'red'), find('g', 'green'), find('b', 'blue')];
  return r && g && b ? [r, g, b] : null;
}

/** Layers that no other one is a part of: of `diffuse` and `diffuse.direct` the latter. */
export const leafLayers = (layers: Layer[]): Layer[] =>
  layers.filter(
    ({ name }) => !layers.some((other) => other.name.startsWith(`${name}.`) || other.name.startsWith(`${name}_`)),
  );
