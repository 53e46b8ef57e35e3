/**
 * One sample of one pixel as it was traced, event by event: the debug view of what `Integrator` does without a word. It is
 * the very path of a render with the same settings, for it takes the same random numbers.
 *
 * @example
 * tracePath(scene, settingsOf(sheet), 48, 32, 5).events[0]; // { kind: 'transmission', object: 'pane0', … }
 */
import { GROUP } from '../film/random.ts';
import type { PathState } from '../path/path-state.ts';
import type { EventCounts, Recorder } from '../path/recorder.ts';
import { recordedTracer } from '../path/tracer.ts';
import type { CompiledScene, RenderSettings } from '../scene/scene.ts';

const KINDS = ['diffuse', 'specular', 'transmission', 'volume'] as const;

export interface TracedEvent {
  kind: (typeof KINDS)[number];
  /** Key of the object; null in fog. */
  object: string | null;
  /** World, metres. */
  point: [number, number, number];
  /** What light found from here on is multiplied by, per channel. */
  weight: [number, number, number];
}

export interface TracedLight {
  /** Events before it was found. */
  after: number;
  /** Id of the light; null: none that has a row. */
  light: string | null;
  /** Luminance it adds to the sample. */
  value: number;
}

export interface TracedPath {
  events: TracedEvent[];
  lights: TracedLight[];
  /** Rays that were sent, those towards lights among them. */
  rays: number;
}

class Steps implements Recorder {
  readonly told: TracedPath = { events: [], lights: [], rays: 0 };

  constructor(private readonly scene: CompiledScene) {}

  event(kind: number, instance: number, point: ArrayLike<number>, { beta }: PathState): void {
    const object = instance < 0 ? null : this.scene.objectIds[this.scene.instanceObject[instance]];
    this.told.events.push({ kind: KINDS[kind], object, point: [point[0], point[1], point[2]], weight: [beta[0], beta[1], beta[2]] }); // prettier-ignore
  }

  contribution(_stage: number, counts: EventCounts, value: number, light: number): void {
    const after = counts.diffuse + counts.specular + counts.transmission + counts.volume;
    if (value !== 0) this.told.lights.push({ after, light: this.scene.lightIds[light] ?? null, value });
  }

  ray(): void {
    this.told.rays += 1;
  }

  sharedRay(): void {
    this.told.rays += 1;
  }
}

/**
 * @param x and `y`: pixel of the full frame
 * @param sample from 0; any number of the render's samples
 */
export function tracePath(
  scene: CompiledScene,
  settings: RenderSettings,
  x: number,
  y: number,
  sample: number,
): TracedPath {
  const steps = new Steps(scene);
  const integrator = recordedTracer(scene, settings, steps);
  integrator.random.start(x, y, Math.floor(sample / GROUP), settings.seed);
  integrator.random.sample = sample % GROUP;
  integrator.sample(x, y);
  return steps.told;
}
