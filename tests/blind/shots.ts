/**
 * Shots that are healthy by construction, drawn from a seed: a few matte and glossy things on a table or in a room, lit by wide
 * lights and an even environment. Their noise target is what they have, so that whatever is found in them is false.
 */
import type { Mesh } from '../../core/data/mesh.ts';
import { identity, lookAt, multiply, rotationY, scaling, translation } from '../../core/data/transform.ts';
import {
  defaultCamera,
  defaultLight,
  defaultMaterial,
  defaultObject,
  defaultSheet,
  evenEnvironment,
} from '../../core/document/defaults.ts';
import type { LightSpec, MaterialSpec, ObjectSpec, Sheet, ShotDocument } from '../../core/document/schema.ts';
import type { Assets } from '../../core/render/compile/assets.ts';
import { box } from '../../demo/shapes.ts';
import type { BenchShot } from '../unit/bench-shot.ts';
import { sphere } from '../unit/helpers.ts';
import { randomNumbers } from '../unit/size.ts';

/** Draws from a seed, in a few handy ways. */
export class Draw {
  readonly next: () => number;

  constructor(seed: number) {
    this.next = randomNumbers(seed);
    // Neighbouring seeds begin alike.
    for (let k = 0; k < 4; k++) this.next();
  }

  within = (low: number, high: number): number => low + (high - low) * this.next();
  whole = (low: number, high: number): number => Math.floor(this.within(low, high + 1));
  one = <T>(of: readonly T[]): T => of[Math.floor(this.next() * of.length)];
  colour = (low: number, high: number): number[] => [0, 1, 2].map(() => this.within(low, high));
}

/** A shot under construction. */
export class Draft {
  readonly document: ShotDocument;
  readonly meshes = new Map<string, Mesh>();
  readonly textures: Assets['textures'] = new Map();
  /** What stands on the table, by key. */
  readonly things: string[] = [];
  readonly isRoom: boolean;

  constructor(readonly draw: Draw) {
    this.isRoom = draw.next() < 0.35;
    const preview: Sheet = { ...defaultSheet(), width: 128, height: 80, samples: 64, seed: draw.whole(1, 1000) };
    preview.limits = { diffuse: 6, specular: 6, transmission: 12, volume: 4, alpha: 24, overall: 24 };
    this.document = {
      schema: 'dusting.shot/1',
      code: 'BLIND',
      name: 'blind',
      frame: 1,
      camera: 'main',
      cameras: { main: { ...defaultCamera(), name: '', transform: lookAt([draw.within(-1, 1), draw.within(1.2, 2.2), 4.6], [0, 0.5, 0]), fieldOfView: draw.within(28, 38) } },
      meshes: {},
      textures: {},
      maps: {},
      coats: {},
      groups: {},
      materials: {},
      objects: {},
      lights: {},
      environment: evenEnvironment(draw.colour(0.25, 0.5)),
      background: null,
      fog: null,
      previewShadows: null,
      sheets: { preview, final: structuredClone(preview) },
    }; // prettier-ignore
    this.surroundings();
    const count = draw.whole(2, 4);
    for (let k = 0; k < count; k++) this.thing(k, count);
    this.key();
    if (draw.next() < 0.4) this.fill();
  }

  get sheet(): Sheet {
    return this.document.sheets.preview;
  }

  put(id: string, mesh: Mesh, material: Partial<MaterialSpec>, object: Partial<ObjectSpec> = {}): void {
    this.meshes.set(id, mesh);
    this.document.meshes[id] = { file: 'blind.glb', mesh: this.meshes.size, primitive: 0 };
    this.document.materials[id] = { ...defaultMaterial(), ...material };
    this.document.objects[id] = { ...defaultObject(), mesh: id, material: id, ...object };
  }

  light(id: string, light: Partial<LightSpec> & Pick<LightSpec, 'kind'>): void {
    this.document.lights[id] = { ...defaultLight(light.kind), ...light } as LightSpec;
  }

  get shot(): BenchShot {
    const { document, meshes, textures } = this;
    return { document, assets: { meshes, textures } };
  }

  private surroundings(): void {
    const { draw } = this;
    const wall = { baseColour: draw.colour(0.35, 0.7), roughness: 1, specular: 0 };
    this.put('floor', box([-4, -0.1, -4], [4, 0, 7]), wall);
    if (!this.isRoom) return;
    const side = { ...wall, baseColour: draw.colour(0.4, 0.7) };
    this.put('back', box([-4, 0, -3.1], [4, 3, -3]), side);
    this.put('left', box([-4.1, 0, -3], [-4, 3, 7]), side);
    this.put('right', box([4, 0, -3], [4.1, 3, 7]), side);
  }

  /** One of several things side by side: a ball or a block, matte or glossy. */
  private thing(k: number, count: number): void {
    const { draw } = this;
    const id = `thing${k}`;
    const [x, z, size] = [
      (k - (count - 1) / 2) * 1.25 + draw.within(-0.1, 0.1),
      draw.within(-0.6, 0.4),
      draw.within(0.3, 0.48),
    ];
    const isBall = draw.next() < 0.6;
    const mesh = isBall ? sphere(1, 64) : box([-1, -1, -1], [1, 1, 1]);
    const turn = isBall ? identity() : rotationY(draw.within(-40, 40));
    const material = draw.one([
      { baseColour: draw.colour(0.2, 0.75), roughness: 1, specular: 0 },
      { baseColour: draw.colour(0.2, 0.75), roughness: draw.within(0.45, 0.7) },
      { baseColour: draw.colour(0.5, 0.85), metallic: 1, roughness: draw.within(0.4, 0.6) },
    ]);
    this.put(id, mesh, material, {
      transform: multiply(translation(x, size, z), multiply(turn, scaling(size, size, size))),
    });
    this.things.push(id);
  }

  private key(): void {
    const { draw } = this;
    const from = [draw.within(-2, 2), draw.within(2.4, 2.9), draw.within(1, 2.5)];
    const size = draw.within(0.5, 0.9);
    this.light('key', { kind: 'rectangle', transform: lookAt(from, [0, 0.3, 0]), width: size, height: size, intensity: draw.within(3, 6) / size ** 2, colour: draw.colour(0.85, 1), samples: 2 }); // prettier-ignore
  }

  private fill(): void {
    const { draw } = this;
    this.light('fill', { kind: 'distant', transform: lookAt([draw.within(-3, 3), 3, 3], [0, 0, 0]), angle: draw.within(1, 3), intensity: draw.within(0.2, 0.5) }); // prettier-ignore
  }
}
