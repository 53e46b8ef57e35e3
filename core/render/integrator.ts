/**
 * Path tracing from the camera with next-event estimation and multiple importance sampling.
 *
 * One call computes one camera sample and adds it to `sums` (layout: `passes.ts`). Weights are
 * combined lobe by lobe with the balance heuristic for several samples of each (Veach 1997, section 9.2). A constant environment is
 * met by sampled directions alone: no table of lights could place samples better than the surface does.
 *
 * Limits count scattering events: an event whose kind or total would pass its limit does not happen, and
 * the weight the path still carries is added to the cut passes.
 *
 * Glass bodies nest by priority (Schmidt & Budge 2002): a face inside a body of higher priority is
 * not there, and is passed without an event.
 */
import { luminance } from '../data/colour.ts';
import { BvhIntersector, ALL_RAYS, type Intersector } from '../geometry/intersector.ts';
import {
  LIGHT_AREA,
  LIGHT_CORNER,
  LIGHT_NORMAL,
  LIGHT_RADIANCE,
  LIGHT_STRIDE,
  LIGHT_U,
  LIGHT_V,
} from '../lights/rectangle.ts';
import {
  DIFFUSE,
  OUT_B,
  OUT_DENSITY,
  OUT_G,
  OUT_R,
  OUT_X,
  OUT_Y,
  OUT_Z,
  SPECULAR,
  Surface,
  TRANSMISSION,
} from '../materials/surface.ts';
import { MediumStack } from './medium-stack.ts';
import { BACKGROUND, BEAUTY, CUT_ANY, CUT_OVERALL, EMISSION, MEAN_CUT, MEAN_RAYS, MEANS, passOf } from './passes.ts';
import { filterSamplers, type FilterSampler } from './pixel-filter.ts';
import { dimension, GroupRandom, SLOT_DIRECTION, SLOT_FILTER, SLOT_LIGHT, SLOT_LOBE, SLOT_ROULETTE } from './random.ts';
import { STAGE_CAMERA, STAGE_LIGHT, type Recorder } from './recorder.ts';
import {
  MATERIAL_ABSORPTION,
  MATERIAL_EMISSION,
  MATERIAL_STRIDE,
  type CompiledScene,
  type RenderSettings,
} from './scene.ts';
import { Shading } from './shading.ts';

/** Events before weak paths may end early. */
const ROULETTE_AFTER = 3;
/** Most split samples of one replica. */
const REPLICA = 256;

export class Integrator {
  /** What samples add to: `MEANS` doubles, sums and not means. */
  readonly sums = new Float64Array(MEANS);
  readonly random = new GroupRandom();
  readonly rays: Intersector;
  /** Another replica draws other numbers for everything but the camera ray; 0 is the picture's own. */
  replica = 0;

  private readonly surface = new Surface();
  private readonly shading: Shading;
  private readonly media: MediumStack;
  private readonly firstMedia: MediumStack;
  private readonly filter: FilterSampler;
  /** The ray being followed: origin, direction. */
  private readonly ray = new Float64Array(6);
  /** Throughput of the path, with absorption on the way. */
  private readonly beta = new Float64Array(3);
  private readonly limitDiffuse: number;
  private readonly limitSpecular: number;
  private readonly limitTransmission: number;
  private readonly limitOverall: number;
  private readonly splits: number;

  // The path's event counts and what they decide.
  private diffuse = 0;
  private specular = 0;
  private transmission = 0;
  private firstKind = -1;
  /** All events so far were transmissions. */
  private straight = true;
  private splitWeight = 1;
  private splitIndex = 0;
  /** Density of the last sampled direction, 0 for a sharp lobe or a camera ray. */
  private density = 0;

  constructor(
    private readonly scene: CompiledScene,
    private readonly settings: RenderSettings,
    private readonly recorder: Recorder | null = null,
  ) {
    this.rays = scene.rays ?? new BvhIntersector(scene.geometry);
    this.shading = new Shading(scene);
    this.media = new MediumStack(scene);
    this.firstMedia = new MediumStack(scene);
    this.filter = filterSamplers[settings.filter.kind];
    this.limitDiffuse = settings.limits.diffuse;
    this.limitSpecular = settings.limits.specular;
    this.limitTransmission = settings.limits.transmission;
    this.limitOverall = settings.limits.overall;
    const { diffuse, specular, transmission } = settings.extraSamples;
    this.splits = Math.max(diffuse, specular, transmission);
  }

  /** Adds one sample of pixel (x, y) of the full frame; `random` must have been started for its group. */
  sample(x: number, y: number): void {
    this.cameraRay(x, y);
    this.media.clear();
    this.beta.fill(1);
    this.diffuse = this.specular = this.transmission = 0;
    this.firstKind = -1;
    this.straight = true;
    this.splitWeight = 1;
    this.splitIndex = this.replica * REPLICA;
    this.density = 0;
    if (!this.advance()) return;

    // The first hit: extra samples of each kind fan out from here.
    const { extraSamples } = this.settings;
    const { shading, ray, beta } = this;
    this.light(extraSamples.light);
    if (this.splits === 1) {
      if (this.scatter()) this.follow();
      return;
    }
    const [rx, ry, rz] = [ray[3], ray[4], ray[5]];
    const [br, bg, bb] = [beta[0], beta[1], beta[2]];
    this.firstMedia.copy(this.media);
    shading.save();
    for (let split = 0; split < this.splits; split++) {
      if (split > 0) {
        shading.restore();
        shading.toSurface(this.surface);
        this.media.copy(this.firstMedia);
        ray[3] = rx;
        ray[4] = ry;
        ray[5] = rz;
        beta[0] = br;
        beta[1] = bg;
        beta[2] = bb;
        this.diffuse = this.specular = this.transmission = 0;
        this.straight = true;
      }
      this.splitIndex = this.replica * REPLICA + split;
      this.firstKind = -1;
      if (this.scatter()) this.follow();
    }
  }

  /**
   * Glass faces that a straight look along the camera ray passes before something opaque.
   * @param met told the instance of each face, in order
   */
  crossings(x: number, y: number, met?: (instance: number) => void): number {
    this.cameraRay(x, y);
    const { ray, rays, media, shading } = this;
    media.clear();
    let faces = 0;
    let hit = rays.closest(ray[0], ray[1], ray[2], ray[3], ray[4], ray[5], Infinity, ALL_RAYS);
    while (hit) {
      if (!shading.isGlass(rays.instance)) break;
      const entering = shading.entering(rays.instance, rays.triangle, ray);
      if (media.isFace(rays.instance, entering)) {
        faces++;
        met?.(rays.instance);
      }
      media.cross(rays.instance, entering);
      hit = rays.closestAfter(rays.t, rays.instance, rays.triangle);
    }
    return faces;
  }

  private cameraRay(x: number, y: number): void {
    const { camera } = this.scene;
    const { width, height, filter } = this.settings;
    const { random, ray } = this;
    random.draw(dimension(0, SLOT_FILTER), 0);
    const px = (2 * (x + 0.5 + this.filter(random.u, filter.width))) / width - 1;
    const py = 1 - (2 * (y + 0.5 + this.filter(random.v, filter.width))) / height;
    const dx = camera[9] + px * camera[3] + py * camera[6];
    const dy = camera[10] + px * camera[4] + py * camera[7];
    const dz = camera[11] + px * camera[5] + py * camera[8];
    const l = 1 / Math.sqrt(dx * dx + dy * dy + dz * dz);
    ray[0] = camera[0];
    ray[1] = camera[1];
    ray[2] = camera[2];
    ray[3] = dx * l;
    ray[4] = dy * l;
    ray[5] = dz * l;
  }

  /** Events after the first: alternately a ray and what it meets. */
  private follow(): void {
    while (this.advance()) {
      this.light(1);
      if (!this.scatter()) return;
    }
  }

  private get total(): number {
    return this.diffuse + this.specular + this.transmission;
  }

  /**
   * Traces the ray to the next face that is really there, collects what shines on the way, and sets
   * up `shading` and `surface`. False when the path ends: nothing, or a light, was met.
   */
  private advance(): boolean {
    const { ray, rays, media, beta, shading, scene } = this;
    const stage = this.firstKind < 0 ? STAGE_CAMERA : this.firstKind;
    this.countRay(stage, this.diffuse, this.specular, this.transmission);
    let from = 0;
    let hit = rays.closest(ray[0], ray[1], ray[2], ray[3], ray[4], ray[5], Infinity, ALL_RAYS);
    for (;;) {
      if (!hit) {
        const e = scene.environment;
        this.collect(this.reach(BACKGROUND), e[0], e[1], e[2], 1);
        return false;
      }
      this.absorb(rays.t - from);
      from = rays.t;
      const light = scene.instanceLight[rays.instance];
      if (light >= 0) {
        this.meetLight(light, rays.t);
        return false;
      }
      if (!shading.isGlass(rays.instance)) {
        shading.hit(rays, ray);
        shading.toSurfaceIn(this.surface, 1);
        break;
      }
      const entering = shading.entering(rays.instance, rays.triangle, ray);
      if (media.isFace(rays.instance, entering)) {
        shading.hit(rays, ray);
        shading.toSurfaceIn(this.surface, media.eta(rays.instance, entering));
        break;
      }
      media.cross(rays.instance, entering);
      hit = rays.closestAfter(rays.t, rays.instance, rays.triangle);
    }
    const m = scene.instanceMaterial[shading.instance] * MATERIAL_STRIDE + MATERIAL_EMISSION;
    const { materials } = scene;
    if (materials[m] + materials[m + 1] + materials[m + 2] > 0)
      this.collect(this.reach(EMISSION), materials[m], materials[m + 1], materials[m + 2], 1);
    return beta[0] + beta[1] + beta[2] > 0;
  }

  /** The pass of light met by the present ray. */
  private reach(unscattered: number): number {
    if (this.firstKind < 0) return unscattered;
    return passOf(this.firstKind, this.straight || this.total === 1);
  }

  private meetLight(light: number, t: number): void {
    const { lights } = this.scene;
    const { ray } = this;
    const o = light * LIGHT_STRIDE;
    const cosine = -(
      lights[o + LIGHT_NORMAL] * ray[3] +
      lights[o + LIGHT_NORMAL + 1] * ray[4] +
      lights[o + LIGHT_NORMAL + 2] * ray[5]
    );
    if (cosine <= 0) return;
    let weight = 1;
    if (this.density > 0) {
      const lightDensity = (t * t) / (lights[o + LIGHT_AREA] * cosine);
      const { extraSamples } = this.settings;
      const isFirst = this.total === 1;
      const surfaceDensity = this.density * (isFirst ? this.extraOf(this.firstKind) : 1);
      weight = surfaceDensity / (surfaceDensity + lightDensity * (isFirst ? extraSamples.light : 1));
    }
    const r = o + LIGHT_RADIANCE;
    this.collect(this.reach(EMISSION), lights[r], lights[r + 1], lights[r + 2], weight);
  }

  private absorb(distance: number): void {
    const { media, beta, scene } = this;
    const inside = media.inside();
    if (inside < 0) return;
    const m = scene.instanceMaterial[inside] * MATERIAL_STRIDE + MATERIAL_ABSORPTION;
    const { materials } = scene;
    if (materials[m] > 0) beta[0] *= Math.exp(-materials[m] * distance);
    if (materials[m + 1] > 0) beta[1] *= Math.exp(-materials[m + 1] * distance);
    if (materials[m + 2] > 0) beta[2] *= Math.exp(-materials[m + 2] * distance);
  }

  /** Adds radiance met by the present ray to its pass and to the beauty. */
  private collect(pass: number, r: number, g: number, b: number, weight: number): void {
    const { beta } = this;
    const w = weight * this.splitWeight;
    this.add(pass, r * beta[0] * w, g * beta[1] * w, b * beta[2] * w);
    if (this.recorder !== null)
      this.recorder.contribution(
        this.firstKind < 0 ? STAGE_CAMERA : this.firstKind,
        this.diffuse,
        this.specular,
        this.transmission,
        w * luminance(r * beta[0], g * beta[1], b * beta[2]),
      );
  }

  private add(pass: number, r: number, g: number, b: number): void {
    const { sums } = this;
    sums[BEAUTY] += r;
    sums[BEAUTY + 1] += g;
    sums[BEAUTY + 2] += b;
    const o = pass * 3;
    sums[o] += r;
    sums[o + 1] += g;
    sums[o + 2] += b;
  }

  /** Samples of a kind at the first hit. */
  private extraOf(kind: number): number {
    const { diffuse, specular, transmission } = this.settings.extraSamples;
    return kind === DIFFUSE ? diffuse : kind === SPECULAR ? specular : transmission;
  }

  private countRay(stage: number, d: number, s: number, t: number): void {
    this.sums[MEAN_RAYS]++;
    if (this.recorder !== null) this.recorder.ray(stage, d, s, t);
  }

  private allows(kind: number): boolean {
    if (this.total >= this.limitOverall) return false;
    return kind === DIFFUSE
      ? this.diffuse < this.limitDiffuse
      : kind === SPECULAR
        ? this.specular < this.limitSpecular
        : this.transmission < this.limitTransmission;
  }

  /** Direct light at the present hit, `count` samples of every light. */
  private light(count: number): void {
    const { scene, random, shading, surface } = this;
    const { lights, lightCount } = scene;
    if (surface.sharp && !shading.hasDiffuse) return;
    const diffuse = shading.hasDiffuse && this.allows(DIFFUSE);
    const specular = !surface.sharp && this.allows(SPECULAR);
    const transmission = !surface.sharp && shading.glass && this.allows(TRANSMISSION);
    if (!diffuse && !specular && !transmission) return;
    const slot = dimension(this.total, SLOT_LIGHT);
    for (let light = 0; light < lightCount; light++) {
      for (let k = 0; k < count; k++) {
        random.draw(slot, (this.splitIndex * 256 + k) * 1024 + light);
        this.lightSample(lights, light * LIGHT_STRIDE, count, diffuse, specular, transmission);
      }
    }
  }

  private lightSample(
    lights: Float64Array,
    o: number,
    count: number,
    diffuse: boolean,
    specular: boolean,
    transmission: boolean,
  ): void {
    const { shading, surface, random, rays } = this;
    const { u, v } = random;
    let x = lights[o + LIGHT_CORNER] + u * lights[o + LIGHT_U] + v * lights[o + LIGHT_V] - shading.point[0];
    let y = lights[o + LIGHT_CORNER + 1] + u * lights[o + LIGHT_U + 1] + v * lights[o + LIGHT_V + 1] - shading.point[1];
    let z = lights[o + LIGHT_CORNER + 2] + u * lights[o + LIGHT_U + 2] + v * lights[o + LIGHT_V + 2] - shading.point[2];
    const d2 = x * x + y * y + z * z;
    const distance = Math.sqrt(d2);
    x /= distance;
    y /= distance;
    z /= distance;
    const n = o + LIGHT_NORMAL;
    const cosine = -(lights[n] * x + lights[n + 1] * y + lights[n + 2] * z);
    if (!(cosine > 0)) return;
    const side = shading.side(x, y, z);
    const local = shading.toLocal(x, y, z);
    // Shading and geometry must agree on which side the light is.
    if (side * local[2] <= 0) return;
    surface.evaluate(local[0], local[1], local[2]);
    const { lobes } = surface;
    const useDiffuse = diffuse && lobes[3] > 0;
    const useSpecular = specular && lobes[7] > 0;
    const useTransmission = transmission && lobes[11] > 0;
    if (!useDiffuse && !useSpecular && !useTransmission) return;
    const { diffuse: d, specular: s, transmission: t } = this;
    const stage = this.firstKind < 0 ? STAGE_LIGHT : this.firstKind;
    if (useDiffuse && useSpecular) {
      this.sums[MEAN_RAYS]++;
      if (this.recorder !== null) this.recorder.sharedRay(stage, d, s, t);
    } else if (useDiffuse) this.countRay(stage, d + 1, s, t);
    else if (useSpecular) this.countRay(stage, d, s + 1, t);
    else this.countRay(stage, d, s, t + 1);
    const off = side > 0 ? shading.lift : -shading.lift;
    const { point, normal } = shading;
    const px = point[0] + normal[0] * off;
    const py = point[1] + normal[1] * off;
    const pz = point[2] + normal[2] * off;
    const blocked = rays.occluded(px, py, pz, x, y, z, distance * (1 - 1e-9) - shading.lift * 2, ALL_RAYS);
    if (blocked) return;

    const lightDensity = (d2 / (lights[o + LIGHT_AREA] * cosine)) * count;
    const k = o + LIGHT_RADIANCE;
    if (useDiffuse) this.lit(DIFFUSE, 0, lightDensity, lights, k);
    if (useSpecular) this.lit(SPECULAR, 4, lightDensity, lights, k);
    if (useTransmission) this.lit(TRANSMISSION, 8, lightDensity, lights, k);
  }

  /** @param density of the light's samples, times how many there are */
  private lit(kind: number, lobe: number, density: number, lights: Float64Array, k: number): void {
    const { lobes } = this.surface;
    const { beta } = this;
    // Balance heuristic of n samples of the light and m of the surface: n·p / (n·p + m·q), over n·p.
    const surfaceDensity = lobes[lobe + 3] * (this.firstKind < 0 ? this.extraOf(kind) : 1);
    const w = this.splitWeight / (density + surfaceDensity);
    const r = w * beta[0] * lobes[lobe] * lights[k];
    const g = w * beta[1] * lobes[lobe + 1] * lights[k + 1];
    const b = w * beta[2] * lobes[lobe + 2] * lights[k + 2];
    const pass =
      this.firstKind < 0 ? passOf(kind, true) : passOf(this.firstKind, this.straight && kind === TRANSMISSION);
    this.add(pass, r, g, b);
    if (this.recorder !== null)
      this.recorder.contribution(
        this.firstKind < 0 ? STAGE_LIGHT : this.firstKind,
        this.diffuse + (kind === DIFFUSE ? 1 : 0),
        this.specular + (kind === SPECULAR ? 1 : 0),
        this.transmission + (kind === TRANSMISSION ? 1 : 0),
        luminance(r, g, b),
      );
  }

  /** Draws the next event and turns the ray; false when the path ends here. */
  private scatter(): boolean {
    const { random, surface, shading, beta, ray, media, settings } = this;
    const bounce = this.total;
    random.draw(dimension(bounce, SLOT_LOBE), this.splitIndex);
    const choose = random.u;
    random.draw(dimension(bounce, SLOT_DIRECTION), this.splitIndex);
    if (!surface.sample(choose, random.u, random.v)) return false;
    const { kind, out } = surface;

    if (this.firstKind < 0) {
      const count = this.extraOf(kind);
      // A further sample belongs to the kinds that have so many.
      if (this.splitIndex - this.replica * REPLICA >= count) return false;
      this.splitWeight = 1 / count;
    }
    const world = shading.toWorld(out[OUT_X], out[OUT_Y], out[OUT_Z]);
    const side = shading.side(world[0], world[1], world[2]);
    if (kind === TRANSMISSION ? side >= 0 : side <= 0) return false;
    beta[0] *= out[OUT_R];
    beta[1] *= out[OUT_G];
    beta[2] *= out[OUT_B];
    if (!(beta[0] + beta[1] + beta[2] > 0)) return false;
    if (!this.allows(kind)) {
      this.cut(kind);
      return false;
    }

    if (this.firstKind < 0) this.firstKind = kind;
    if (kind === DIFFUSE) this.diffuse++;
    else if (kind === SPECULAR) this.specular++;
    else {
      this.transmission++;
      media.cross(shading.instance, shading.isEntering);
    }
    this.straight &&= kind === TRANSMISSION;
    this.density = out[OUT_DENSITY];
    if (settings.roulette && bounce >= ROULETTE_AFTER) {
      const survive = Math.max(beta[0], beta[1], beta[2]);
      if (survive < 1) {
        const q = Math.max(0.05, survive);
        random.draw(dimension(bounce, SLOT_ROULETTE), this.splitIndex);
        if (random.u >= q) return false;
        beta[0] /= q;
        beta[1] /= q;
        beta[2] /= q;
      }
    }
    const off = kind === TRANSMISSION ? -shading.lift : shading.lift;
    const { point, normal } = shading;
    ray[0] = point[0] + normal[0] * off;
    ray[1] = point[1] + normal[1] * off;
    ray[2] = point[2] + normal[2] * off;
    ray[3] = world[0];
    ray[4] = world[1];
    ray[5] = world[2];
    return true;
  }

  /** Notes the weight that limits end here: once for each limit that forbids the event, and once in all. */
  private cut(kind: number): void {
    const { beta, sums } = this;
    const weight = luminance(beta[0], beta[1], beta[2]) * this.splitWeight;
    const count = kind === DIFFUSE ? this.diffuse : kind === SPECULAR ? this.specular : this.transmission;
    const limit =
      kind === DIFFUSE ? this.limitDiffuse : kind === SPECULAR ? this.limitSpecular : this.limitTransmission;
    if (count >= limit) sums[MEAN_CUT + kind] += weight;
    if (this.total >= this.limitOverall) sums[MEAN_CUT + CUT_OVERALL] += weight;
    sums[MEAN_CUT + CUT_ANY] += weight;
  }
}
