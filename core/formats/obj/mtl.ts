/**
 * Materials of an MTL library as glTF's metallic-roughness model has them. Sources: Wavefront, "MTL material
 * format", 1995; the PBR statements (Pr, Pm, Pc, Pcr, norm) as Exocortex published them, 2013.
 * A highlight's exponent becomes a roughness by GGX alpha² = 2/(Ns + 2) (Walter et al., "Microfacet Models for
 * Refraction", 2007, section 5.3, after Beckmann).
 */
import type { SceneReading } from '../scene-reading.ts';
import {
  namedMaterial,
  plainTexture,
  type SourceMaterial,
  type SourceTexture,
  type TextureSlot,
} from '../source-scene.ts';

type Read = (material: Reading, words: string[], fail: () => never) => void;

/** A material on its way: what its statements said, until all are there. */
interface Reading extends SourceMaterial {
  specularColour: number[] | null;
  exponent: number | null;
  roughness: number | null;
  illumination: number;
  filter: number[] | null;
  opacity: number;
}

const numbers = (words: string[], fail: () => never): number[] =>
  words.map((word) => {
    const value = Number(word);
    return Number.isFinite(value) ? value : fail();
  });
const clamp = (value: number) => Math.min(1, Math.max(0, value));

/** One number stands for all three. */
function colour(words: string[], fail: () => never): number[] {
  const values = numbers(words.slice(0, 3), fail);
  return values.length === 3 ? values : values.length ? [values[0], values[0], values[0]] : fail();
}

const one = (words: string[], fail: () => never): number =>
  words.length ? numbers(words.slice(0, 1), fail)[0] : fail();

const STATEMENTS: Record<string, Read> = {
  Kd: (m, words, fail) => {
    m.spec.baseColour = colour(words, fail).map(clamp);
  },
  Ks: (m, words, fail) => {
    m.specularColour = colour(words, fail);
  },
  Ke: (m, words, fail) => {
    m.spec.emission = colour(words, fail).map((v) => Math.max(0, v));
  },
  Tf: (m, words, fail) => {
    m.filter = colour(words, fail).map(clamp);
  },
  Ns: (m, words, fail) => {
    m.exponent = Math.max(0, one(words, fail));
  },
  Ni: (m, words, fail) => {
    m.spec.ior = Math.min(4, Math.max(1, one(words, fail)));
  },
  d: (m, words, fail) => {
    m.opacity = clamp(
      one(
        words.filter((word) => word !== '-halo'),
        fail,
      ),
    );
  },
  Tr: (m, words, fail) => {
    m.opacity = clamp(1 - one(words, fail));
  },
  illum: (m, words, fail) => {
    m.illumination = one(words, fail);
  },
  Pr: (m, words, fail) => {
    m.roughness = clamp(one(words, fail));
  },
  Pm: (m, words, fail) => {
    m.spec.metallic = clamp(one(words, fail));
  },
  Pc: (m, words, fail) => {
    m.coat = { roughness: 0, ...m.coat, strength: clamp(one(words, fail)) };
  },
  Pcr: (m, words, fail) => {
    m.coat = { strength: 0, ...m.coat, roughness: clamp(one(words, fail)) };
  },
};

/** Light from everywhere at once is what a path tracer works out. */
const LEFT_OUT: Record<string, string> = { Ka: 'ambient colour; light from around is worked out' };

const MAPS: Record<string, { slot: TextureSlot; colourSpace: SourceTexture['colourSpace'] }> = {
  map_Kd: { slot: 'baseColour', colourSpace: 'srgb' },
  map_Ke: { slot: 'emission', colourSpace: 'srgb' },
  map_d: { slot: 'alpha', colourSpace: 'linear' },
  map_Pr: { slot: 'roughness', colourSpace: 'linear' },
  map_Pm: { slot: 'metallic', colourSpace: 'linear' },
  map_Bump: { slot: 'bump', colourSpace: 'linear' },
  map_bump: { slot: 'bump', colourSpace: 'linear' },
  bump: { slot: 'bump', colourSpace: 'linear' },
  norm: { slot: 'normal', colourSpace: 'linear' },
  disp: { slot: 'displacement', colourSpace: 'linear' },
};

/** @throws RangeError naming file and line when a value is none */
export async function readMtl(text: string, file: string, reading: SceneReading): Promise<SourceMaterial[]> {
  const materials: Reading[] = [];
  let line = 0;
  for (const full of text.split('\n')) {
    line += 1;
    const where = `${file}:${line}`;
    const content = full.replace(/(^|\s)#.*$/, '').trim();
    if (content === '') continue;
    const [keyword, ...words] = content.split(/\s+/);
    const fail = (): never => {
      throw new RangeError(`${where}: "${content.slice(0, 80)}" does not hold the numbers that ${keyword} needs`);
    };
    const rest = content.slice(keyword.length).trim();
    if (keyword === 'newmtl') {
      materials.push(begun(rest, where));
      continue;
    }
    const material = materials.at(-1);
    if (!material) {
      reading.notUnderstood(where, `"${content.slice(0, 60)}" before any material begins`);
      continue;
    }
    if (Object.hasOwn(STATEMENTS, keyword) && words[0] !== 'spectral' && words[0] !== 'xyz')
      STATEMENTS[keyword](material, words, fail);
    else if (Object.hasOwn(MAPS, keyword)) await addMap(material, keyword, words, file, where, reading);
    else
      reading.notUnderstoodAgain(
        `mtl ${keyword}`,
        where,
        `statement "${content.slice(0, 60)}"${LEFT_OUT[keyword] ? ` (${LEFT_OUT[keyword]})` : ''}`,
      );
  }
  return materials.map(finished);
}

const begun = (name: string, where: string): Reading => ({
  ...namedMaterial(name, where),
  specularColour: null,
  exponent: null,
  roughness: null,
  illumination: 2,
  filter: null,
  opacity: 1,
});

/** Options of a map and how many words follow each; −1: one to three numbers. */
const OPTIONS: Record<string, number> = {
  '-o': -1, '-s': -1, '-t': -1, '-mm': 2, '-bm': 1, '-blendu': 1, '-blendv': 1, '-boost': 1, '-cc': 1, '-clamp': 1,
  '-imfchan': 1, '-texres': 1, '-type': 1,
}; // prettier-ignore

async function addMap(
  material: Reading,
  keyword: string,
  words: string[],
  file: string,
  where: string,
  reading: SceneReading,
): Promise<void> {
  const { slot, colourSpace } = MAPS[keyword];
  let at = 0;
  const texture = { ...plainTexture(slot, -1), colourSpace };
  while (at < words.length && Object.hasOwn(OPTIONS, words[at])) {
    const option = words[at++];
    let most = OPTIONS[option] < 0 ? 3 : OPTIONS[option];
    const values: string[] = [];
    while (most-- > 0 && at < words.length - 1 && (OPTIONS[option] > 0 || Number.isFinite(Number(words[at]))))
      values.push(words[at++]);
    const value = Number(values[0]);
    if (option === '-o') texture.offset = [value, Number(values[1] ?? 0)];
    else if (option === '-s') texture.scale = [value, Number(values[1] ?? values[0])];
    else if (option === '-clamp') texture.wrap = values[0] === 'on' ? 'clamp' : 'repeat';
    else if (option === '-bm') material.spec.bumpDepth = value * 0.001;
    else if (option === '-imfchan') texture.channel = CHANNELS[values[0]] ?? 'luminance';
    else reading.notUnderstoodAgain(`map ${option}`, where, `option ${option} of ${keyword}`);
  }
  const path = words.slice(at).join(' ');
  if (path === '') {
    reading.notUnderstood(where, `${keyword} without a file`);
    return;
  }
  texture.image = await reading.image(file, path, where);
  material.textures.push(texture);
}

const CHANNELS: Record<string, SourceTexture['channel']> = {
  r: 'red', g: 'green', b: 'blue', m: 'alpha', l: 'luminance', z: 'luminance',
}; // prettier-ignore

/** Illumination models that mean glass; of these, those that bend light. */
const GLASS = new Set([4, 6, 7, 9]);
const BENDS = new Set([6, 7]);

function finished(reading: Reading): SourceMaterial {
  const { specularColour, exponent, roughness, illumination, filter, opacity, ...material } = reading;
  const { spec } = material;
  const gloss = exponent === null ? null : Math.sqrt(Math.sqrt(2 / (exponent + 2)));
  const roughest = illumination === 1 || (specularColour && Math.max(...specularColour) === 0);
  spec.roughness = roughness ?? gloss ?? (roughest ? 1 : spec.roughness);
  if (roughest && roughness === null) spec.specular = 0;
  if (GLASS.has(illumination)) {
    spec.transmission = 1;
    spec.baseColour = filter ?? [1, 1, 1];
    material.thin = !BENDS.has(illumination);
  } else if (opacity < 1 || material.textures.some(({ slot }) => slot === 'alpha')) {
    spec.alphaMode = 'blend';
    spec.alpha = opacity;
  }
  if (material.coat?.strength === 0) material.coat = null;
  return material;
}
