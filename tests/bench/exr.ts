/** Reading a 24-channel picture whole into float planes, against a few lines of C++ on OpenEXR, both on one thread. */
import { execFileSync } from 'node:child_process';
import { existsSync, mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { deflateSync } from 'node:zlib';
import { createPicture } from '../../core/data/picture.ts';
import { readExr } from '../../core/formats/exr/read.ts';
import { writeExr } from '../../core/formats/exr/write.ts';
import { inflate } from '../../host/inflate.ts';
import { exrMeans } from '../../host/kernel.ts';
import { randomNumbers } from '../unit/size.ts';

const [WIDTH, HEIGHT, CHANNELS, RUNS] = [1920, 1080, 24, 7];

export function benchExr(): void {
  if (!existsSync('/usr/include/OpenEXR/ImfInputFile.h')) {
    console.log('exr: needs OpenEXR’s headers and a compiler (apt-get install libopenexr-dev g++)');
    return;
  }
  const folder = mkdtempSync(join(tmpdir(), 'dusting-bench-'));
  try {
    const native = join(folder, 'read-exr');
    const source = join(import.meta.dirname, 'native/read-exr.cpp');
    execFileSync('g++', ['-O3', '-std=c++17', '-I/usr/include/OpenEXR', '-I/usr/include/Imath', source, '-o', native, '-lOpenEXR', '-lIlmThread', '-lIex', '-lImath']); // prettier-ignore
    for (const compression of ['ZIP', 'PIZ'] as const) {
      const file = join(folder, `${compression}.exr`);
      writeFileSync(file, frame(compression));
      const ours: number[] = [];
      const theirs: number[] = [];
      // In turns, so that the machine's drift meets both.
      for (let run = 0; run < RUNS; run++) {
        const started = performance.now();
        readExr(new Uint8Array(readFileSync(file)), file, { inflate, means: exrMeans() });
        ours.push(performance.now() - started);
        theirs.push(Number(execFileSync(native, [file, '1'], { encoding: 'utf8' }).split(' ')[0]));
      }
      const median = (list: number[]) => [...list].sort((a, b) => a - b)[RUNS >> 1];
      const [a, b] = [median(ours), median(theirs)];
      console.log(`exr, ${CHANNELS} channels of halves, ${compression}: ${a.toFixed(0)} ms, OpenEXR ${b.toFixed(0)} ms, ratio ${(a / b).toFixed(2)}`); // prettier-ignore
    }
  } finally {
    rmSync(folder, { recursive: true, force: true });
  }
}

/** Ramps with grain, as passes are. */
function frame(compression: 'ZIP' | 'PIZ'): Uint8Array {
  const picture = createPicture(WIDTH, HEIGHT, Array.from({ length: CHANNELS }, (_, c) => `pass${String(c >> 2).padStart(2, '0')}.${'RGBA'[c & 3]}`)); // prettier-ignore
  const random = randomNumbers(1);
  let k = 0;
  for (const plane of picture.channels.values()) {
    k += 1;
    for (let i = 0; i < plane.length; i++) plane[i] = Math.max(0, Math.sin(((i % WIDTH) * k) / 900) + 0.05 * random());
  }
  return writeExr(picture, { deflate: (b) => deflateSync(b, { level: 4 }), display: { width: WIDTH, height: HEIGHT }, compression, type: () => 'half' }); // prettier-ignore
}
