/** Nothing is recorded in the kernel: who records traces with its twin. */
import { F64s } from './prelude';
import { PathState } from '../../render/path/path-state';

@final @unmanaged
export class Recorder {
  contribution(stage: i32, counts: PathState, value: f64, light: i32): void {}
  ray(stage: i32, counts: PathState): void {}
  event(kind: i32, instance: i32, point: F64s, path: PathState): void {}
  sharedRay(stage: i32, counts: PathState): void {}
}
