/**
 * The statements of an OBJ file that make geometry. Source: Wavefront, "Object Files (.obj)", format
 * specification, appendix B1 of the Advanced Visualizer manual, 1992; crease tags: OpenSubdiv, "hbr/far shapes"
 * (`t crease 2/1/0 a b sharpness`, points from 0).
 */
import { GrowingFloats, GrowingWholes } from '../../data/grow.ts';
import type { SceneReading } from '../scene-reading.ts';

/** Everything the statements said, faces in file order. */
export interface ObjGeometry {
  points: Float32Array;
  uvs: Float32Array;
  normals: Float32Array;
  /** Corners of each face. */
  faceSizes: Int32Array;
  /** Three numbers a corner: point, UV, normal, from 0; −1 where there is none. */
  corners: Int32Array;
  faceNode: Int32Array;
  /** −1: none. */
  faceMaterial: Int32Array;
  /** 0: flat. −1: the file says nothing of smoothing. */
  faceSmoothing: Int32Array;
  nodes: { name: string; line: number }[];
  materials: { name: string; line: number }[];
  libraries: { text: string; line: number }[];
  creases: { a: number; b: number; sharpness: number }[];
}

/** Statements of curves, surfaces and display that make nothing of what a renderer shows here. */
const ELEMENTS_LEFT: Record<string, string> = {
  l: 'lines are not rendered',
  p: 'points are not rendered',
};

/** @throws RangeError naming file and line when a number is none or a face points at what is not there */
export function readObjGeometry(text: string, reading: SceneReading): ObjGeometry {
  const file = reading.scene.file;
  const points = new GrowingFloats();
  const uvs = new GrowingFloats();
  const normals = new GrowingFloats();
  const faceSizes = new GrowingWholes();
  const corners = new GrowingWholes();
  const faceNode = new GrowingWholes();
  const faceMaterial = new GrowingWholes();
  const faceSmoothing = new GrowingWholes();
  const nodes: ObjGeometry['nodes'] = [];
  const nodeOf = new Map<string, number>();
  const materials: ObjGeometry['materials'] = [];
  const materialOf = new Map<string, number>();
  const libraries: ObjGeometry['libraries'] = [];
  const creases: ObjGeometry['creases'] = [];
  let object = '';
  let group = '';
  let node = -1;
  let material = -1;
  let smoothing = -1;
  let line = 0;

  const at = () => `${file}:${line}`;
  const numberIn = (word: string | undefined): number => {
    const value = word === undefined ? NaN : Number(word);
    if (!Number.isFinite(value)) throw new RangeError(`${at()}: "${word ?? ''}" is not finite`);
    return value;
  };
  const named = (map: Map<string, number>, list: { name: string; line: number }[], name: string): number => {
    let number = map.get(name);
    if (number === undefined) {
      number = list.push({ name, line }) - 1;
      map.set(name, number);
    }
    return number;
  };
  /** From 1, or counted back from the last one so far. */
  const indexIn = (word: string, count: number, what: string): number => {
    const value = Number(word);
    const index = value < 0 ? count + value : value - 1;
    if (!Number.isInteger(value) || value === 0 || index < 0 || index >= count)
      throw new RangeError(`${at()}: there is no ${what} ${word}; there are ${count} by then`);
    return index;
  };

  const statements: Record<string, (words: string[], rest: string) => void> = {
    v: (words) => {
      for (let a = 1; a <= 3; a++) points.push(numberIn(words[a]));
      if (words.length === 5 && Number(words[4]) !== 1)
        reading.notUnderstoodAgain('weight', at(), 'weight of a point, which only curves have a use for');
      if (words.length >= 7) reading.notUnderstoodAgain('vertex colours', at(), 'colours at points');
    },
    vt: (words) => {
      uvs.push(numberIn(words[1]));
      uvs.push(words[2] === undefined ? 0 : numberIn(words[2]));
    },
    vn: (words) => {
      for (let a = 1; a <= 3; a++) normals.push(numberIn(words[a]));
    },
    f: (words) => {
      if (words.length < 4) {
        reading.repairedAgain('short face', at(), `face of ${words.length - 1} corners left out`);
        return;
      }
      if (node < 0) node = named(nodeOf, nodes, group || object || 'default');
      for (let k = 1; k < words.length; k++) {
        const [v, vt, vn] = words[k].split('/');
        corners.push(indexIn(v, points.length / 3, 'point'));
        corners.push(vt ? indexIn(vt, uvs.length / 2, 'UV') : -1);
        corners.push(vn ? indexIn(vn, normals.length / 3, 'normal') : -1);
      }
      faceSizes.push(words.length - 1);
      faceNode.push(node);
      faceMaterial.push(material);
      faceSmoothing.push(smoothing);
    },
    o: (_words, rest) => {
      object = rest;
      group = '';
      node = -1;
    },
    g: (_words, rest) => {
      group = rest === 'default' ? '' : rest;
      node = -1;
    },
    s: (words) => {
      smoothing = words[1] === 'off' ? 0 : words[1] === 'on' ? 1 : Math.trunc(numberIn(words[1]));
    },
    usemtl: (_words, rest) => {
      material = named(materialOf, materials, rest);
    },
    mtllib: (_words, rest) => {
      libraries.push({ text: rest, line });
    },
    t: (words) => {
      if (words[1] !== 'crease' || words.length !== 6) {
        reading.notUnderstoodAgain(`tag ${words[1]}`, at(), `tag "${words.slice(1, 2).join(' ')}"`);
        return;
      }
      const [a, b] = [numberIn(words[3]), numberIn(words[4])];
      for (const point of [a, b])
        if (!Number.isInteger(point) || point < 0 || point >= points.length / 3)
          throw new RangeError(`${at()}: the crease names point ${point}, which is not there`);
      creases.push({ a, b, sharpness: numberIn(words[5]) });
    },
  };

  for (let start = 0; start < text.length;) {
    line += 1;
    let end = text.indexOf('\n', start);
    if (end < 0) end = text.length;
    let content = text.slice(start, end);
    start = end + 1;
    // A backslash at the end joins the next line.
    const first = line;
    while (content.endsWith('\\') && start < text.length) {
      end = text.indexOf('\n', start);
      if (end < 0) end = text.length;
      content = `${content.slice(0, -1)} ${text.slice(start, end)}`;
      start = end + 1;
      line += 1;
    }
    const comment = content.indexOf('#');
    if (comment >= 0) content = content.slice(0, comment);
    content = content.trim();
    if (content === '') continue;
    const words = content.split(/\s+/);
    const keyword = words[0];
    const next = line;
    line = first;
    if (Object.hasOwn(statements, keyword)) statements[keyword](words, content.slice(keyword.length).trim());
    else
      reading.notUnderstoodAgain(
        keyword,
        at(),
        ELEMENTS_LEFT[keyword] ? `"${keyword}": ${ELEMENTS_LEFT[keyword]}` : `statement "${keyword.slice(0, 40)}"`,
      );
    line = next;
  }
  return {
    points: points.view,
    uvs: uvs.view,
    normals: normals.view,
    faceSizes: faceSizes.view,
    corners: corners.view,
    faceNode: faceNode.view,
    faceMaterial: faceMaterial.view,
    faceSmoothing: faceSmoothing.view,
    nodes,
    materials,
    libraries,
    creases,
  };
}
