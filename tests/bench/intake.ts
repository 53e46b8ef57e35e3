/** Preflight of a million triangles, and a log of 200 MB. */
import { emptyScene, plainNode } from '../../core/formats/source-scene.ts';
import { polygonsOf } from '../../core/data/poly-mesh.ts';
import { heronFormat } from '../../core/intake/log/formats/heron.ts';
import { LogReading } from '../../core/intake/log/read.ts';
import { triage } from '../../core/intake/log/triage.ts';
import { defaultProfile } from '../../core/intake/preflight/profile.ts';
import { runPreflight } from '../../core/intake/preflight/run.ts';
import { terrain } from './meshes.ts';

const LOG_BYTES = 200 * 2 ** 20;

export function benchIntake(): void {
  const mesh = terrain(708);
  let started = performance.now();
  const seconds = () => ((performance.now() - started) / 1000).toFixed(2);
  const scene = emptyScene('OBJ', 'hills.obj', 0);
  scene.meshes.push({ name: 'hills', where: 'hills.obj', poly: polygonsOf(mesh) });
  scene.nodes.push({ ...plainNode('/hills', 'hills.obj'), mesh: 0, parts: [{ material: -1, faces: null }] });
  const welded = seconds();
  started = performance.now();
  runPreflight(scene, defaultProfile(), null);
  console.log(
    `preflight, ${mesh.indices.length / 3} triangles: points joined in ${welded} s, all checks in ${seconds()} s`,
  );

  const lines = Array.from({ length: 1000 }, (_, i) =>
    i % 10
      ? `. 0:${String(i % 60).padStart(2, '0')}:00 <trace> f=1001 m=${300 + i} tile ${i} of 4096 at 17,${i}\n`
      : `! 0:00:00 <trace> f=1001 o=/set/comb${i} face ${i} of "comb" is degenerate\n`,
  ).join('');
  const reading = new LogReading(heronFormat);
  started = performance.now();
  let bytes = 0;
  for (; bytes < LOG_BYTES; bytes += lines.length) reading.push(lines);
  const log = reading.end();
  triage(log);
  console.log(
    `log of ${bytes >> 20} MB, ${log.lines} lines: ${seconds()} s, ${(bytes / 2 ** 20 / Number(seconds())).toFixed(0)} MB/s`,
  );
}
