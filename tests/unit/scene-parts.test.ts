/** Parts of scenes by their published formulas: MTL statements, USD shapes and colours, list edits, transforms. */
import { expect } from 'chai';
import { luminance } from '../../core/data/colour.ts';
import { determinant, invert, multiply, rotationOf, rotationX, rotationY, rotationZ, scaling, translation } from '../../core/data/transform.ts'; // prettier-ignore
import { readMtl } from '../../core/formats/obj/mtl.ts';
import { filesInMemory } from '../../core/formats/scene-files.ts';
import { SceneReading } from '../../core/formats/scene-reading.ts';
import { editedList } from '../../core/formats/usd/layer.ts';
import { parseUsd } from '../../core/formats/usd/parse.ts';
import { colourOf } from '../../core/formats/usd/lights.ts';
import { usdShape } from '../../core/formats/usd/shapes.ts';
import { topologyOf } from '../../core/geometry/topology.ts';

const reading = () => new SceneReading(filesInMemory(new Map()), 'OBJ', 'a.obj', 0);
const prim = (text: string) => [...parseUsd(`#usda 1.0\n${text}`, 'a.usda').root.children.values()][0];

describe('MTL statements', () => {
  const read = async (text: string) => {
    const r = reading();
    return { materials: await readMtl(`newmtl a\n${text}`, 'a.mtl', r), told: r.scene.notUnderstood.map(({ where, what }) => `${where} ${what}`) }; // prettier-ignore
  };
  const specOf = async (text: string) => (await read(text)).materials[0].spec;

  it('give roughness from an exponent by alpha² = 2/(Ns + 2), and rougher ones from smaller exponents', async () => {
    for (const ns of [0, 2, 10, 100, 1000]) {
      const { roughness } = await specOf(`Ns ${ns}`);
      expect(roughness ** 4).to.be.closeTo(2 / (ns + 2), 1e-12);
    }
    expect((await specOf('Ns 100\nPr 0.9')).roughness, 'what is said outright counts').to.equal(0.9);
    expect(await specOf('Ks 0 0 0')).to.include({ roughness: 1, specular: 0 });
  });

  it('tell opacity both ways, glass by its model, and one number for three', async () => {
    expect(await specOf('d 0.25')).to.include({ alpha: 0.25, alphaMode: 'blend' });
    expect(await specOf('Tr 0.25')).to.include({ alpha: 0.75, alphaMode: 'blend' });
    expect(await specOf('d -halo 0.5')).to.include({ alpha: 0.5 });
    expect((await specOf('Kd 0.5')).baseColour).to.deep.equal([0.5, 0.5, 0.5]);
    for (const [model, thin] of [[4, true], [6, false], [7, false], [9, true]] as const) {
      const { materials } = await read(`illum ${model}\nTf 0.5 1 1`);
      expect([materials[0].thin, materials[0].spec.transmission, materials[0].spec.baseColour[0]]).to.deep.equal([thin, 1, 0.5]); // prettier-ignore
    } // prettier-ignore
  });

  it('hold maps with their options, and say which they do not know', async () => {
    const { materials, told } = await read('map_bump -bm 4 -clamp on -imfchan g -texres 512 wax bump.png\nmap_Ka a.png\nPc 0.5\nPcr 0.2');
    expect(materials[0].textures[0]).to.include({ slot: 'bump', wrap: 'clamp', channel: 'green' });
    expect(materials[0].spec.bumpDepth).to.be.closeTo(0.004, 1e-12);
    expect(materials[0].coat).to.deep.equal({ strength: 0.5, roughness: 0.2 });
    expect(told).to.deep.equal(['a.mtl:2 option -texres of map_bump', 'a.mtl:3 statement "map_Ka a.png"']);
  }); // prettier-ignore

  it('are refused by line where a number is none', async () => {
    const message = await read('Kd 1 red 0').then(() => '', (error: Error) => error.message); // prettier-ignore
    expect(message).to.equal('a.mtl:2: "Kd 1 red 0" does not hold the numbers that Kd needs');
  });
});

describe('USD shapes', () => {
  const volume = (text: string) => topologyOf(usdShape(prim(text))).volume / 6;
  it('are closed, face outwards, and have the volumes of their formulas within 1 %', () => {
    for (const [text, wanted] of [
      ['def Cube "a" { double size = 3 }', 27],
      ['def Sphere "a" { double radius = 2 }', (32 / 3) * Math.PI],
      ['def Cylinder "a" { double radius = 2\n double height = 3 }', 12 * Math.PI],
      ['def Cone "a" { double radius = 2\n double height = 3\n uniform token axis = "X" }', 4 * Math.PI],
    ] as const) {
      const { euler, openEdges, mixedEdges } = topologyOf(usdShape(prim(text)));
      expect([euler, openEdges.length, mixedEdges.length], text).to.deep.equal([2, 0, 0]);
      expect(volume(text) / wanted, text).to.be.within(0.99, 1.0001);
    }
  });
  it('lie along the axis that is named', () => {
    const { points } = usdShape(prim('def Cylinder "a" { double height = 10\n uniform token axis = "Y" }'));
    const reach = [0, 1, 2].map((a) => Math.max(...points.filter((_, i) => i % 3 === a)));
    expect(reach.map((v) => Math.round(v))).to.deep.equal([1, 5, 1]);
  });
});

describe('USD colours of a temperature', () => {
  const rgb = (kelvin: number) => colourOf(prim(`def SphereLight "a" { bool inputs:enableColorTemperature = 1\n float inputs:colorTemperature = ${kelvin} }`)); // prettier-ignore
  it('have luminance 1, are red below and blue above, and nearly white at 6500 K (CIE 015: D65 lies close by)', () => {
    for (const kelvin of [1800, 3000, 4500, 6500, 12000]) {
      const [r, g, b] = rgb(kelvin);
      expect(luminance(r, g, b)).to.be.closeTo(1, 1e-12);
    }
    rgb(6500).forEach((v) => expect(v).to.be.closeTo(1, 0.06));
    expect(rgb(2000)[0]).to.be.above(3 * rgb(2000)[2]);
    expect(rgb(12000)[2]).to.be.above(1.2 * rgb(12000)[0]);
  });
});

describe('USD lists', () => {
  it('are edited layer by layer, the stronger edit last (list editing in OpenUSD’s glossary)', () => {
    const edit = (op: 'explicit' | 'prepend' | 'append' | 'delete', ...items: string[]) => ({ op, items });
    expect(editedList([edit('explicit', 'a', 'b'), edit('prepend', 'c'), edit('append', 'd'), edit('delete', 'a')])).to.deep.equal(['c', 'b', 'd']); // prettier-ignore
    expect(editedList([edit('append', 'a', 'b'), edit('append', 'a')])).to.deep.equal(['b', 'a']);
    expect(editedList([edit('append', 'a'), edit('explicit', 'x')])).to.deep.equal(['x']);
    expect(editedList(undefined)).to.deep.equal([]);
  });
  it('read strings of all four kinds, comments, numbers that are none, and nested dictionaries', () => {
    const { root } = parseUsd('#usda 1.0\n( "doc" # note\n customLayerData = { string a = \'it\\\'s\' dictionary b = { int c = 2 } }\n doc = """two\nlines""" )\ndef Mesh "m" { float[] v = [1, -inf, nan, 1.5e3] }', 'a.usda'); // prettier-ignore
    expect(root.metadata.get('doc')).to.equal('two\nlines');
    const data = root.metadata.get('customLayerData') as { entries: Map<string, unknown> };
    expect(data.entries.get('a')).to.equal("it's");
    const { values } = root.children.get('m')!.attributes.get('v')!.value as { values: Float64Array };
    expect([...values]).to.deep.equal([1, -Infinity, NaN, 1500]);
  });
});

describe('Transforms', () => {
  const close = (a: number[], b: number[]) => a.forEach((v, i) => expect(v).to.be.closeTo(b[i], 1e-12));
  it('turn alike by angle and by quaternion (Shoemake 1985: half the angle)', () => {
    const [s, c] = [Math.sin(Math.PI / 6), Math.cos(Math.PI / 6)];
    close(rotationOf(s, 0, 0, c), rotationX(60));
    close(rotationOf(0, s, 0, c), rotationY(60));
    close(rotationOf(0, 0, s, c), rotationZ(60));
  });
  it('have determinants that multiply, and inverses', () => {
    const m = multiply(translation(4, 5, 6), multiply(rotationZ(30), scaling(-2, 3, 4)));
    expect(determinant(m)).to.be.closeTo(-24, 1e-9);
    expect(determinant(invert(m))).to.be.closeTo(-1 / 24, 1e-12);
  });
});
