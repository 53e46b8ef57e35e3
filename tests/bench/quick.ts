import { createFilm, packFilm } from '../../core/render/film/film.ts';
import { renderGroups } from '../../core/render/frame/render-tile.ts';
import { settingsOf } from '../../core/render/scene/scene.ts';
import { compiled } from '../unit/helpers.ts';
import { kernelScene } from '../unit/kernel.ts';
import { pathScenes } from './path-scenes.ts';
const only = process.argv[2] ?? '';
for (const [name, make] of Object.entries(pathScenes)) {
  if (!name.includes(only)) continue;
  const test = make();
  const sheet = test.document.sheets.preview;
  const k = kernelScene(compiled(test));
  const twin = { ...k, kernel: { rays: k.kernel!.rays, tracer: () => null as never } };
  const which: [string, typeof k][] = [
    ['kernel', k],
    ['twin', twin as never],
  ];
  const out: Record<string, number[]> = {};
  let bits: Record<string, string> = {};
  let rays = 0;
  for (let run = 0; run < Number(process.argv[3] ?? 4); run++)
    for (const [n, s] of which) {
      if (n === 'twin' && !process.argv.includes('twin')) continue;
      const use = n === 'twin' ? { ...s, kernel: { rays: k.kernel!.rays, tracer: () => undefined as never } } : s;
      const region = { x: 48, y: 32, width: 96, height: 64 };
      const film = createFilm(region, s.layout);
      const t = process.cpuUsage();
      rays = renderGroups(use, settingsOf(sheet), film, 4);
      const u = process.cpuUsage(t);
      (out[n] ??= []).push((96 * 64 * 16) / (u.user / 1e6));
      bits[n] = Buffer.from(packFilm(film)).toString('base64').slice(-4000);
    }
  console.log(
    name,
    Object.entries(out)
      .map(([n, v]) => `${n} ${(Math.max(...v.slice(1)) / 1e3).toFixed(0)} k/s`)
      .join(' | '),
    rays / (96 * 64 * 16),
    'rays/sample',
    bits.twin ? bits.kernel === bits.twin : '',
  );
}
