/**
 * What a shot costs on a farm: what each frame takes, times the frames, and apart from it what every machine does once
 * before its first frame.
 *
 * @example
 * farmBudget({ threadSeconds: 600, onceSeconds: 20 }, { frames: 100, machines: 10, threads: 16, speed: 1, price: 2 });
 * // machineHours 1.1, wholeHours 0.11, price 2.2
 */

/** Measured on one thread of this machine. */
export interface FrameWork {
  threadSeconds: number;
  /** Reading files, building trees and mips: once a machine. */
  onceSeconds: number;
}

export interface Farm {
  frames: number;
  machines: number;
  /** Of each machine, all at work on one frame. */
  threads: number;
  /** Of one of their threads over one of this machine. */
  speed: number;
  /** Of a machine's hour, in whatever it is paid in; null: not asked. */
  price: number | null;
}

export interface Budget {
  /** Seconds of one machine. */
  frameSeconds: number;
  onceSeconds: number;
  /** Hours of all machines together: of frames, and of what is done once. */
  frameHours: number;
  onceHours: number;
  machineHours: number;
  /** Hours until the last frame is there. */
  wholeHours: number;
  price: number | null;
}

const HOUR = 3600;

/** Frames are dealt out whole; machines that get none do nothing. What is done once runs on one thread. */
export function farmBudget({ threadSeconds, onceSeconds }: FrameWork, farm: Farm): Budget {
  const { frames, machines, threads, speed, price } = farm;
  const frameSeconds = threadSeconds / (threads * speed);
  const once = onceSeconds / speed;
  const used = Math.min(frames, machines);
  const frameHours = (frames * frameSeconds) / HOUR;
  const onceHours = (used * once) / HOUR;
  const machineHours = frameHours + onceHours;
  return {
    frameSeconds,
    onceSeconds: once,
    frameHours,
    onceHours,
    machineHours,
    wholeHours: (Math.ceil(frames / machines) * frameSeconds + once) / HOUR,
    price: price === null ? null : machineHours * price,
  };
}
