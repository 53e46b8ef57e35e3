/**
 * Light that a point gets at once: shadow rays to every light, weighted lobe by lobe against directions that
 * the surface (or the fog) draws itself, with the balance heuristic for several samples of each.
 * Source: Veach, Robust Monte Carlo Methods for Light Transport Simulation, 1997, section 9.2.
 */
import { toInt, type f64, type i32 } from '../../data/numbers.ts';
import { CAMERA_RAY } from '../../geometry/ray-kinds.ts';
import { LightSampler } from '../../lights/light-sampler.ts';
import {
  LIGHT_FLAGS,
  LIGHT_GROUP,
  LIGHT_REACH_BOUNCES,
  LIGHT_REACH_DISTANCE,
  LIGHT_STRIDE,
  LIGHT_VISIBILITY,
  LINKED,
  PLAIN_SHADOWS,
  POINT_LIKE,
  SAMPLED,
} from '../../lights/table.ts';
import { henyeyGreenstein } from '../../materials/phase.ts';
import { DIFFUSE, SPECULAR, TRANSMISSION, VOLUME, type Surface } from '../../materials/surface.ts';
import { luminance } from '../../data/colour.ts';
import { aimedGlow } from './aimed-glow.ts';
import { SHADOW, type Collector } from './collector.ts';
import { FOG_ANISOTROPY } from '../scene/fog.ts';
import { MEAN_RAYS, passOf } from '../film/passes.ts';
import { LightShares } from './light-shares.ts';
import type { MediumStack } from './medium-stack.ts';
import type { PathContext } from './path-context.ts';
import type { PathState } from './path-state.ts';
import { dimension, SLOT_CATCHER, SLOT_CHOICE, SLOT_LIGHT, type GroupRandom } from '../film/random.ts';
import { STAGE_LIGHT, type Recorder } from './recorder.ts';
import type { CompiledScene } from '../scene/scene.ts';
import type { PathSettings } from '../scene/path-settings.ts';
import type { Shading } from './shading.ts';
import { rayOfKind } from './ray-of-kind.ts';
import { ShadowRay } from './shadow-ray.ts';
import { extend } from './signature.ts';

/** Share of its way that a shadow ray goes: beyond the rounding of a place on the light, and no further. */
const SHORT = 1 - 1e-9;

export class DirectLight {
  readonly sampler: LightSampler;
  private readonly shares: LightShares;
  private readonly shadow: ShadowRay;
  private readonly fogLobe = new Float64Array(4);
  private readonly shadowSums: i32;
  private readonly shadowLights: i32;

  private readonly scene: CompiledScene;
  private readonly settings: PathSettings;
  private readonly random: GroupRandom;
  private readonly path: PathState;
  private readonly shading: Shading;
  private readonly surface: Surface;
  private readonly media: MediumStack;
  private readonly collector: Collector;
  private readonly recorder: Recorder | null;

  constructor(context: PathContext) {
    const { scene, settings } = context;
    this.scene = scene;
    this.settings = settings;
    this.random = context.random;
    this.path = context.path;
    this.shading = context.shading;
    this.surface = context.surface;
    this.media = context.media;
    this.collector = context.collector;
    this.recorder = context.recorder;
    this.sampler = new LightSampler(scene);
    this.shares = new LightShares(scene, settings);
    this.shadow = new ShadowRay(context);
    this.shadowSums = settings.sums.shadows;
    this.shadowLights = settings.sums.shadowCount;
  }

  /** Samples of a kind at the first hit. */
  extraOf(kind: i32): i32 {
    const { diffuse, specular, transmission } = this.settings.extraSamples;
    // Places in fog are drawn anew for each sample of it: nothing fans out from one.
    return kind === DIFFUSE ? diffuse : kind === SPECULAR ? specular : kind === TRANSMISSION ? transmission : 1;
  }

  /** Whether a light reaches the object of an event of this kind, by its links, its reach and who may see it. */
  serves(light: i32, kind: i32, object: i32, bounces: i32, metres: number): boolean {
    const { lights, lightLinks, objectCount } = this.scene;
    const o = light * LIGHT_STRIDE;
    if ((toInt(lights[o + LIGHT_VISIBILITY]) & (kind < 0 ? CAMERA_RAY : rayOfKind(kind))) === 0) return false;
    const isLinked = (toInt(lights[o + LIGHT_FLAGS]) & LINKED) !== 0;
    if (isLinked && object >= 0 && lightLinks![light * objectCount + object] === 0) return false;
    // What is only seen, in a reflection or through glass, is seen at any distance.
    if (bounces === 0) return true;
    return bounces <= lights[o + LIGHT_REACH_BOUNCES] && metres <= lights[o + LIGHT_REACH_DISTANCE];
  }

  /** How much a direction that the surface drew counts when it meets a light, 0–1. */
  misWeight(light: i32, lightDensity: number): number {
    const { path, scene } = this;
    const flags = toInt(scene.lights[light * LIGHT_STRIDE + LIGHT_FLAGS]);
    if ((flags & SAMPLED) === 0) return 1;
    if (path.covered && path.through > 0) return 0;
    if (path.density === 0) return 1;
    if ((flags & PLAIN_SHADOWS) === 0 || path.unshaded) return 0;
    const isFirst = path.total === 1 && path.firstKind !== VOLUME;
    const own = path.density * (isFirst ? this.extraOf(path.firstKind) : 1);
    return own / (own + lightDensity * this.shares.expected(light, isFirst));
  }

  /** Light at the surface in `shading`; limits are told by which kinds are still allowed. */
  atSurface(isFirst: boolean, diffuse: boolean, specular: boolean, transmission: boolean): void {
    const { scene, random, path, shading } = this;
    const { lights, lightCount } = scene;
    const slot = dimension(path.total, SLOT_LIGHT);
    const object = scene.instanceObject[shading.instance];
    const { point } = shading;
    const { shares } = this;
    if (shares.chooses(isFirst)) {
      shares.remember(isFirst, point[0], point[1], point[2], object);
      const picks = shares.picks(isFirst);
      const choose = dimension(path.total, SLOT_CHOICE);
      for (let k = 0; k < picks; k++) {
        random.draw(choose, path.splitIndex * 256 + k);
        const light = shares.choice.pick(random.u, point[0], point[1], point[2], object);
        if (light < 0) continue;
        random.draw(slot, (path.splitIndex * 256 + k) * 1024);
        const expected = picks * shares.choice.chance;
        this.sampleAtSurface(light, object, picks, expected, isFirst, diffuse, specular, transmission);
      }
      return;
    }
    for (let light = 0; light < lightCount; light++) {
      if ((toInt(lights[light * LIGHT_STRIDE + LIGHT_FLAGS]) & SAMPLED) === 0) continue;
      const count = shares.count(light, isFirst);
      for (let k = 0; k < count; k++) {
        random.draw(slot, (path.splitIndex * 256 + k) * 1024 + light);
        this.sampleAtSurface(light, object, count, count, isFirst, diffuse, specular, transmission);
      }
    }
  }

  private sampleAtSurface(
    light: i32,
    object: i32,
    count: i32,
    expected: number,
    isFirst: boolean,
    diffuse: boolean,
    specular: boolean,
    transmission: boolean,
  ): void {
    const { shading, surface, sampler, path, random } = this;
    const { point } = shading;
    if (!sampler.aim(light, point[0], point[1], point[2], random.u, random.v)) return;
    if (sampler.emitter >= 0 && !aimedGlow(this.scene, this.sampler, this.shading)) return;
    const d = sampler.direction;
    const side = shading.side(d[0], d[1], d[2]);
    const local = shading.toLocal(d[0], d[1], d[2]);
    // Shading and geometry must agree on which side the light is.
    if (side * local[2] <= 0) return;
    surface.evaluate(local[0], local[1], local[2]);
    const { lobes } = surface;
    const metres = path.length + sampler.distance;
    const { bounces } = path;
    const byDiffuse = diffuse && lobes[3] > 0 && this.serves(light, DIFFUSE, object, bounces + 1, sampler.distance);
    const bySpecular = specular && lobes[7] > 0 && this.serves(light, SPECULAR, object, bounces, metres);
    const byTransmission = transmission && lobes[11] > 0 && this.serves(light, TRANSMISSION, object, bounces, metres);
    if (!byDiffuse && !bySpecular && !byTransmission) return;
    this.note(byDiffuse, bySpecular, byTransmission ? TRANSMISSION : -1);

    const unshaded = path.unshaded;
    const { shadow } = this;
    const open = this.reaches(light, side > 0 ? shading.rayOffset : -shading.rayOffset, unshaded);
    if (isFirst && light < this.shadowLights)
      this.collector.sums[this.shadowSums + light] +=
        (open ? luminance(shadow.transmittance[0], shadow.transmittance[1], shadow.transmittance[2]) : 0) / count;
    if (!open) return;
    if (byDiffuse) this.lit(light, DIFFUSE, 0, count, expected, isFirst, lobes, unshaded);
    if (bySpecular) this.lit(light, SPECULAR, 4, count, expected, isFirst, lobes, unshaded);
    if (byTransmission) this.lit(light, TRANSMISSION, 8, count, expected, isFirst, lobes, unshaded);
  }

  /**
   * Traces the shadow ray towards what was aimed at, from `off` along the normal of the surface in `shading`. It is aimed
   * anew from there and ends a share of its length short of its end: with the direction from the surface itself it would
   * run beside the place it was meant for, and at grazing angles meet the light's own face before it.
   */
  private reaches(light: i32, off: number, unshaded: boolean): boolean {
    const { shading, sampler, media } = this;
    const { point, normal } = shading;
    const { direction, distance } = sampler;
    let x = direction[0];
    let y = direction[1];
    let z = direction[2];
    let end = Infinity;
    if (distance < Infinity) {
      x = x * distance - normal[0] * off;
      y = y * distance - normal[1] * off;
      z = z * distance - normal[2] * off;
      end = Math.sqrt(x * x + y * y + z * z);
      x /= end;
      y /= end;
      z /= end;
    }
    return this.shadow.isVisible(
      light,
      point[0] + normal[0] * off,
      point[1] + normal[1] * off,
      point[2] + normal[2] * off,
      x,
      y,
      z,
      end * SHORT,
      media,
      unshaded,
    );
  }

  /** Light at a place in fog: from a light chosen for it, or from the only one. */
  inFog(x: number, y: number, z: number): void {
    const { scene, random, path } = this;
    const { lights, lightCount } = scene;
    const slot = dimension(path.total, SLOT_LIGHT);
    const { shares } = this;
    if (shares.chooses(false)) {
      shares.remember(false, x, y, z, -1);
      random.draw(dimension(path.total, SLOT_CHOICE), path.splitIndex * 256);
      const light = shares.choice.pick(random.u, x, y, z, -1);
      if (light < 0) return;
      random.draw(slot, path.splitIndex * 256 * 1024);
      this.sampleInFog(light, shares.choice.chance, x, y, z);
      return;
    }
    for (let light = 0; light < lightCount; light++) {
      if ((toInt(lights[light * LIGHT_STRIDE + LIGHT_FLAGS]) & SAMPLED) === 0) continue;
      random.draw(slot, path.splitIndex * 256 * 1024 + light);
      this.sampleInFog(light, 1, x, y, z);
    }
  }

  private sampleInFog(light: i32, expected: number, x: number, y: number, z: number): void {
    const { scene, random, path, sampler, media, fogLobe } = this;
    const { ray } = path;
    if (!sampler.aim(light, x, y, z, random.u, random.v)) return;
    if (sampler.emitter >= 0 && !aimedGlow(this.scene, this.sampler, this.shading)) return;
    if (!this.serves(light, VOLUME, -1, path.bounces + 1, sampler.distance)) return;
    this.note(false, false, VOLUME);
    const d = sampler.direction;
    if (!this.shadow.isVisible(light, x, y, z, d[0], d[1], d[2], sampler.distance * SHORT, media, false)) return;
    const g = scene.fog![FOG_ANISOTROPY];
    fogLobe.fill(henyeyGreenstein(ray[3] * d[0] + ray[4] * d[1] + ray[5] * d[2], g));
    this.lit(light, VOLUME, 0, 1, expected, false, fogLobe, false);
  }

  /** Counts the shadow ray that is about to be traced. */
  private note(diffuse: boolean, specular: boolean, other: i32): void {
    const { path, recorder } = this;
    this.collector.sums[MEAN_RAYS]++;
    this.collector.rays[SHADOW]++;
    if (recorder === null) return;
    const stage = path.firstKind < 0 ? (other === VOLUME ? VOLUME : STAGE_LIGHT) : path.firstKind;
    if (diffuse && specular) {
      recorder.sharedRay(stage, path);
      return;
    }
    const kind = diffuse ? DIFFUSE : specular ? SPECULAR : other;
    path.step(kind, 1);
    recorder.ray(stage, path);
    path.step(kind, -1);
  }

  /** Adds what arrives by one lobe, if its limits leave room for what the shadow ray passed. */
  private lit(
    light: i32,
    kind: i32,
    lobe: i32,
    count: i32,
    expected: number,
    isFirst: boolean,
    lobes: Float64Array,
    unshaded: boolean,
  ): void {
    const { scene, settings, path, sampler, shadow } = this;
    const { limits } = settings;
    const { faces, passes } = shadow;
    if (faces > 0) {
      const transmission = path.transmission + faces + (kind === TRANSMISSION ? 1 : 0);
      if (transmission > limits.transmission || path.total + 1 + faces > limits.overall) return;
    }
    if (passes > 0 && path.alpha + passes > limits.alpha) return;
    const flags = toInt(scene.lights[light * LIGHT_STRIDE + LIGHT_FLAGS]);
    // Balance heuristic of n samples of the light and m of the surface: n·p / (n·p + m·q), over n·p.
    const alone = (flags & PLAIN_SHADOWS) === 0 || (flags & POINT_LIKE) !== 0 || unshaded || faces > 0;
    const own: f64 = alone ? 0 : lobes[lobe + 3] * (isFirst ? this.extraOf(kind) : 1);
    const w = path.weight / (sampler.density * expected + own);
    const { radiance } = sampler;
    const { transmittance } = shadow;
    const { beta } = path;
    const first = path.firstKind < 0 ? kind : path.firstKind;
    const direct = path.firstKind < 0 || (path.straight && kind === TRANSMISSION);
    path.step(kind, 1);
    path.transmission += faces;
    path.alpha += passes;
    this.collector.add(
      passOf(first, direct),
      toInt(scene.lights[light * LIGHT_STRIDE + LIGHT_GROUP]),
      light,
      w * beta[0] * lobes[lobe] * radiance[0] * transmittance[0],
      w * beta[1] * lobes[lobe + 1] * radiance[1] * transmittance[1],
      w * beta[2] * lobes[lobe + 2] * radiance[2] * transmittance[2],
      path.weight / count,
      path.scattered,
      path.firstKind < 0 && kind !== VOLUME ? STAGE_LIGHT : first,
      extend(path.signature, kind),
      path,
    );
    path.alpha -= passes;
    path.transmission -= faces;
    path.step(kind, -1);
  }

  /**
   * For surfaces that only take shadows: share of the light there that arrives, 0–1. One light sample is
   * chosen in proportion to what it would bring, and its shadow ray decides.
   */
  openness(): number {
    const { scene, random, shading, path } = this;
    const { lightCount } = scene;
    const object = scene.instanceObject[shading.instance];
    const slot = dimension(0, SLOT_CATCHER);
    let sum: f64 = 0;
    let chosen = -1;
    for (let light = 0; light < lightCount; light++) {
      const brought = this.broughtBy(light, object, slot);
      if (brought === 0) continue;
      sum += brought;
      // A weighted reservoir of one.
      random.draw(slot, path.splitIndex * 1024 + 512 + light);
      if (random.u * sum < brought) chosen = light;
    }
    if (chosen < 0) return 1;
    this.broughtBy(chosen, object, slot);
    this.collector.sums[MEAN_RAYS]++;
    this.collector.rays[SHADOW]++;
    const open = this.reaches(chosen, shading.rayOffset, false);
    const { transmittance } = this.shadow;
    return open ? luminance(transmittance[0], transmittance[1], transmittance[2]) : 0;
  }

  /** Luminance that one sample of a light would bring to a white matt surface, were nothing in the way. */
  private broughtBy(light: i32, object: i32, slot: i32): number {
    const { scene, random, shading, sampler, path } = this;
    if ((toInt(scene.lights[light * LIGHT_STRIDE + LIGHT_FLAGS]) & SAMPLED) === 0) return 0;
    random.draw(slot, path.splitIndex * 1024 + light);
    const { point } = shading;
    if (!sampler.aim(light, point[0], point[1], point[2], random.u, random.v)) return 0;
    if (sampler.emitter >= 0 && !aimedGlow(this.scene, this.sampler, this.shading)) return 0;
    const d = sampler.direction;
    const cosine = shading.side(d[0], d[1], d[2]);
    if (cosine <= 0 || !this.serves(light, DIFFUSE, object, 1, sampler.distance)) return 0;
    const { radiance } = sampler;
    return (luminance(radiance[0], radiance[1], radiance[2]) * cosine) / sampler.density;
  }
}
