/** Demo shots as they are built, once a process: their images and meshes take seconds. */
import type { DemoShot } from '../../demo/shot.ts';

const built = new Map<() => Promise<DemoShot>, Promise<DemoShot>>();

/** @returns a shot whose document a test may change; the bytes of its files are shared */
export async function builtOnce(build: () => Promise<DemoShot>): Promise<DemoShot> {
  const shot = built.get(build) ?? build();
  built.set(build, shot);
  const { document, files } = await shot;
  return { document: structuredClone(document), files: new Map(files) };
}
