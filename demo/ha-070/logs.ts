/** Logs that came back from the farm with the dawn set: one of ours and two of invented renderers. All break off. */
import { millraceFormat } from '../../core/intake/log/formats/millrace.ts';

const clock = (seconds: number): string =>
  [Math.floor(seconds / 3600), Math.floor(seconds / 60) % 60, seconds % 60]
    .map((part, i) => (i ? String(part).padStart(2, '0') : String(part)))
    .join(':');

/** Memory that climbs until the machine takes the process away. */
const climbing = (step: number): number => Math.round(1800 * 1.16 ** step);

const ours = (): string =>
  [
    '+0.004s info [open] frame 1001 mem 118 MB: HA-070',
    '+0.610s info [compile] frame 1001 mem 240 MB: 26 meshes, 5 textures',
    '+0.702s warning [compile] frame 1001 mem 251 MB: File "textures/sign.png" is not there; its name is shown in place of texture "sign".',
    '+0.702s warning [compile] frame 1001 mem 251 MB: File "geometry/smoker.glb" is not there; objects of mesh "smoker" are left out.',
    '+0.915s info [render] frame 1001 mem 262 MB: 1920 × 1080 pixels, 16 threads',
    ...Array.from({ length: 9 }, (_, i) => `+${(14.2 * (i + 1)).toFixed(3)}s info [render] frame 1001 mem 270 MB: ${102 * (i + 1)} of 2040 tiles`),
  ].join('\n'); // prettier-ignore

const heron = (): string =>
  [
    '. 5:12:03 <open> f=1001 m=412 reading sets/dawn.usda',
    '! 5:12:04 <open> f=1001 m=420 o=/honey-house/sign cannot open texture "textures/sign.png"',
    '! 5:12:04 <open> f=1001 m=420 unresolved variable $WAX in "$WAX/comb_bump.png"',
    ...Array.from({ length: 120 }, (_, i) => `! 5:12:05 <build> f=1001 m=${430 + i} o=/honey-house/crates face ${i * 3} of "crate" is degenerate and left out`),
    ...Array.from({ length: 14 }, (_, i) => `. ${clock(18730 + i * 41)} <trace> f=1001 m=${climbing(i)} th=${i % 4} o=/honey-house/jars rays=camera=${8_294_400 * (i + 1)},transmission=${61_200_000 * (i + 1)},shadow=${22_100_000 * (i + 1)} bucket ${i + 1} of 64`),
  ].join('\n'); // prettier-ignore

const millrace = (): string =>
  [
    { s: 0, level: 'note', stage: 'parse', rss: 380_000, text: 'scene dawn, 26 objects' },
    { s: 2, level: 'warn', stage: 'parse', rss: 391_000, node: 'banner', text: 'object without uv set 2' },
    { s: 3, level: 'hint', stage: 'parse', rss: 391_000, text: 'option light_links is deprecated' },
    ...Array.from({ length: 8 }, (_, i) => ({ s: 9 + i * 30, level: 'note', stage: 'shade', rss: 702_000, worker: i % 4, text: `pass ${i} of 32` })),
    { s: 240, level: 'fault', stage: 'shade', rss: 703_000, text: 'write failed: No space left on device' },
  ]
    .map(({ s, ...rest }) => JSON.stringify({ [millraceFormat.keys!.time]: `2026-03-02T05:${String(10 + Math.floor(s / 60)).padStart(2, '0')}:${String(s % 60).padStart(2, '0')}Z`, frame: 1001, ...rest }))
    .join('\n'); // prettier-ignore

export const dawnLogs = (): Record<string, string> => ({
  'logs/dusting.log': ours(),
  'logs/heron.log': heron(),
  'logs/millrace.log': millrace(),
});
