/**
 * Headers of an EXR file: its parts with their windows, channels and attributes, before any pixel is read.
 * Source: the OpenEXR file layout document.
 */
import { ExrReading } from './reading.ts';

export type ExrType = 'uint' | 'half' | 'float';
const TYPES: ExrType[] = ['uint', 'half', 'float'];

export const EXR_COMPRESSIONS = ['none', 'RLE', 'ZIPS', 'ZIP', 'PIZ', 'PXR24', 'B44', 'B44A', 'DWAA', 'DWAB'] as const;
export type ExrCompression = (typeof EXR_COMPRESSIONS)[number];

export interface ExrChannel {
  name: string;
  type: ExrType;
  /** Lossy compressions may keep it as its logarithm. */
  isPerceptual: boolean;
  xSampling: number;
  ySampling: number;
}

/** Both ends belong to it. */
export interface ExrWindow {
  minX: number;
  minY: number;
  maxX: number;
  maxY: number;
}

export type ExrValue = string | number | number[];

export interface ExrPart {
  name: string;
  compression: ExrCompression;
  dataWindow: ExrWindow;
  displayWindow: ExrWindow;
  pixelAspect: number;
  lineOrder: 'increasing' | 'decreasing' | 'random';
  channels: ExrChannel[];
  /** Null: scan lines. */
  tiles: { width: number; height: number; levels: 'one' | 'mip' | 'rip'; roundsUp: boolean } | null;
  /** Deep pixels hold lists of samples, which are not read. */
  isDeep: boolean;
  /** Stated number of chunks; null where the windows tell it. */
  chunks: number | null;
  /** Every other attribute that holds text or numbers. */
  attributes: Record<string, ExrValue>;
}

export interface ExrHeader {
  isMultiPart: boolean;
  parts: ExrPart[];
  /** Where the tables of offsets begin. */
  end: number;
}

const MAGIC = 20000630;
const TILED = 0x200;
const DEEP = 0x800;
const MULTI_PART = 0x1000;
const LONGEST_NAME = 255;
const MOST_PARTS = 4096;
const MOST_CHANNELS = 4096;
const MOST_ATTRIBUTES = 10_000;
/** Windows beyond are no picture's. */
const FARTHEST = 2 ** 24;

/** @param where the file's name in messages. @throws RangeError naming file, part and byte */
export function readExrHeader(bytes: Uint8Array, where: string): ExrHeader {
  const reading = new ExrReading(bytes, where);
  if (bytes.length < 8 || reading.int32('its beginning') !== MAGIC)
    reading.refuse('does not begin as an EXR file does', 0);
  const version = reading.int32('its version');
  if ((version & 0xff) !== 2) reading.refuse(`is of version ${version & 0xff}; 2 is read`, 4);
  const isMultiPart = (version & MULTI_PART) !== 0;
  const parts: ExrPart[] = [];
  for (;;) {
    if (isMultiPart && reading.bytes[reading.at] === 0) {
      reading.at += 1;
      break;
    }
    if (parts.length === MOST_PARTS) reading.refuse(`has more than ${MOST_PARTS} parts`);
    parts.push(readPart(reading, parts.length, version, isMultiPart));
    if (!isMultiPart) break;
  }
  if (parts.length === 0) reading.refuse('has no part');
  return { isMultiPart, parts, end: reading.at };
}

interface Attribute {
  type: string;
  at: number;
  size: number;
}

function readPart(reading: ExrReading, number: number, version: number, isMultiPart: boolean): ExrPart {
  const begin = reading.at;
  const found = new Map<string, Attribute>();
  for (;;) {
    const name = reading.text(LONGEST_NAME, `the name of an attribute of part ${number}`);
    if (name === '') break;
    if (found.size === MOST_ATTRIBUTES) reading.refuse(`part ${number} has more than ${MOST_ATTRIBUTES} attributes`);
    const type = reading.text(LONGEST_NAME, `the type of attribute "${name}"`);
    const size = reading.int32(`the size of attribute "${name}"`);
    reading.need(size, `attribute "${name}" of part ${number}`);
    found.set(name, { type, at: reading.at, size });
    reading.at += size;
  }
  const end = reading.at;
  const read = <T>(name: string, size: number, as: () => T): T => {
    const attribute = found.get(name);
    if (!attribute) return reading.refuse(`part ${number} has no attribute "${name}"`, begin);
    if (attribute.size < size)
      return reading.refuse(`attribute "${name}" of part ${number} has ${attribute.size} bytes`, attribute.at);
    reading.at = attribute.at;
    const value = as();
    found.delete(name);
    return value;
  };
  const optional = <T>(name: string, size: number, as: () => T): T | null =>
    found.has(name) ? read(name, size, as) : null;
  const textOf = (name: string): string | null => {
    const attribute = found.get(name);
    if (attribute?.type !== 'string') return null;
    found.delete(name);
    return new TextDecoder().decode(reading.bytes.subarray(attribute.at, attribute.at + attribute.size));
  };

  const channels = read('channels', 1, () => readChannels(reading, number));
  const compression = read('compression', 1, () => {
    const value = reading.byte('compression');
    return EXR_COMPRESSIONS[value] ?? reading.refuse(`part ${number} has compression ${value}, which is unknown`);
  });
  const dataWindow = read('dataWindow', 16, () => readWindow(reading, `data window of part ${number}`));
  const displayWindow = read('displayWindow', 16, () => readWindow(reading, `display window of part ${number}`));
  const lineOrder = (['increasing', 'decreasing', 'random'] as const)[optional('lineOrder', 1, () => reading.byte('lineOrder')) ?? 0]; // prettier-ignore
  const pixelAspect = optional('pixelAspectRatio', 4, () => reading.float32('pixelAspectRatio')) ?? 1;
  const tiles = optional('tiles', 9, () => readTiles(reading, number));
  const chunks = optional('chunkCount', 4, () => reading.int32('chunkCount'));
  const kind = textOf('type') ?? '';
  const name = textOf('name') ?? '';
  const isTiled = isMultiPart ? kind === 'tiledimage' || kind === 'deeptile' : (version & TILED) !== 0 || kind === 'tiledimage'; // prettier-ignore
  const isDeep = kind.startsWith('deep') || (!isMultiPart && (version & DEEP) !== 0);
  if (isTiled && !tiles) reading.refuse(`part ${number} is tiled and does not say how`, begin);
  reading.at = end;
  const attributes = Object.fromEntries(
    [...found].flatMap(([key, attribute]) => {
      const value = valueOf(reading, attribute);
      return value === null ? [] : [[key, value]];
    }),
  );
  reading.at = end;
  return {
    name,
    compression,
    dataWindow,
    displayWindow,
    pixelAspect: pixelAspect > 0 && pixelAspect < 1e6 ? pixelAspect : 1,
    lineOrder: lineOrder ?? 'increasing',
    channels,
    tiles: isTiled ? tiles : null,
    isDeep,
    chunks,
    attributes,
  };
}

function readChannels(reading: ExrReading, part: number): ExrChannel[] {
  const channels: ExrChannel[] = [];
  for (;;) {
    const name = reading.text(LONGEST_NAME, `the name of a channel of part ${part}`);
    if (name === '') return channels;
    if (channels.length === MOST_CHANNELS) reading.refuse(`part ${part} has more than ${MOST_CHANNELS} channels`);
    const type = reading.int32(`the type of channel "${name}"`);
    if (!TYPES[type]) reading.refuse(`channel "${name}" of part ${part} has type ${type}, which is unknown`);
    const isPerceptual = reading.byte('pLinear') !== 0;
    reading.at += 3;
    const [xSampling, ySampling] = [reading.int32('its sampling'), reading.int32('its sampling')];
    if (!(xSampling >= 1 && xSampling < 1024 && ySampling >= 1 && ySampling < 1024))
      reading.refuse(`channel "${name}" of part ${part} has sampling ${xSampling}, ${ySampling}`);
    channels.push({ name, type: TYPES[type], isPerceptual, xSampling, ySampling });
  }
}

function readWindow(reading: ExrReading, what: string): ExrWindow {
  const at = reading.at;
  const [minX, minY, maxX, maxY] = [0, 1, 2, 3].map(() => reading.int32(what));
  const isWindow = maxX >= minX && maxY >= minY && [minX, minY, maxX, maxY].every((v) => Math.abs(v) < FARTHEST);
  if (!isWindow) reading.refuse(`the ${what} is ${minX}, ${minY} to ${maxX}, ${maxY}`, at);
  return { minX, minY, maxX, maxY };
}

function readTiles(reading: ExrReading, part: number): ExrPart['tiles'] {
  const at = reading.at;
  const [width, height] = [reading.int32('the width of tiles'), reading.int32('the height of tiles')];
  const mode = reading.byte('the mode of tiles');
  const levels = (['one', 'mip', 'rip'] as const)[mode & 15];
  if (!(width >= 1 && height >= 1 && width < FARTHEST && height < FARTHEST) || !levels)
    reading.refuse(`part ${part} has tiles of ${width} × ${height} in mode ${mode}`, at);
  return { width, height, levels, roundsUp: mode >> 4 === 1 };
}

/** Numbers of an attribute, by its type. */
const NUMBERS: Record<string, { count: number; read: (view: DataView, at: number) => number; size: number }> = {
  int: { count: 1, size: 4, read: (view, at) => view.getInt32(at, true) },
  float: { count: 1, size: 4, read: (view, at) => view.getFloat32(at, true) },
  double: { count: 1, size: 8, read: (view, at) => view.getFloat64(at, true) },
  v2i: { count: 2, size: 4, read: (view, at) => view.getInt32(at, true) },
  v2f: { count: 2, size: 4, read: (view, at) => view.getFloat32(at, true) },
  v3i: { count: 3, size: 4, read: (view, at) => view.getInt32(at, true) },
  v3f: { count: 3, size: 4, read: (view, at) => view.getFloat32(at, true) },
  box2i: { count: 4, size: 4, read: (view, at) => view.getInt32(at, true) },
  box2f: { count: 4, size: 4, read: (view, at) => view.getFloat32(at, true) },
  chromaticities: { count: 8, size: 4, read: (view, at) => view.getFloat32(at, true) },
  m33f: { count: 9, size: 4, read: (view, at) => view.getFloat32(at, true) },
  m44f: { count: 16, size: 4, read: (view, at) => view.getFloat32(at, true) },
  rational: { count: 2, size: 4, read: (view, at) => view.getInt32(at, true) },
  timecode: { count: 2, size: 4, read: (view, at) => view.getUint32(at, true) },
  envmap: { count: 1, size: 1, read: (view, at) => view.getUint8(at) },
};

/** Null for types that hold neither text nor numbers. */
function valueOf({ bytes, view }: ExrReading, { type, at, size }: Attribute): ExrValue | null {
  if (type === 'string') return new TextDecoder().decode(bytes.subarray(at, at + size));
  const how = NUMBERS[type];
  if (!how || size < how.count * how.size) return null;
  const values = Array.from({ length: how.count }, (_, i) => how.read(view, at + i * how.size));
  return how.count === 1 ? values[0] : values;
}
