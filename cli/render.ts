/** `dusting render`: a shot, or a bare glTF file, to a multi-layer EXR, with statistics. */
import { existsSync } from 'node:fs';
import { writeFile } from 'node:fs/promises';
import { availableParallelism, freemem } from 'node:os';
import { dirname } from 'node:path';
import process from 'node:process';
import { deflateSync } from 'node:zlib';
import prettyBytes from 'pretty-bytes';
import type { RenderReport } from '../core/contracts/render-report.ts';
import type { Region } from '../core/data/picture.ts';
import type { Sheet, ShotDocument } from '../core/document/schema.ts';
import { validateDocument } from '../core/document/validate.ts';
import { compileScene } from '../core/render/compile/compile.ts';
import { channelError, type Film } from '../core/render/film/film.ts';
import { filmExr } from '../core/render/film/film-exr.ts';
import { frameBytes } from '../core/render/film/frame-bytes.ts';
import { LIGHT_PASSES } from '../core/render/film/passes.ts';
import { GROUP } from '../core/render/film/random.ts';
import { settingsOf } from '../core/render/scene/scene.ts';
import { lentByHost } from '../host/kernel.ts';
import { BadUse } from './bad-use.ts';
import { openShot } from './open-shot.ts';
import { numbersOption, parseOptions, wholeOption } from './options.ts';
import { renderFrame } from './render-frame.ts';
import { RenderLog } from './render-log.ts';
import { setValues } from './set-values.ts';

export const RENDER_USAGE = `dusting render <shot folder | .glb | .gltf | .obj | .usda> --out file.exr
    [--sheet preview|final] [--set /json/pointer=value]… [--region x,y,w,h] [--size WxH]
    [--samples n] [--max-depth n] [--threads n] [--seed n] [--log file.log] [--json]`;

const OPTIONS = {
  out: { type: 'string' },
  sheet: { type: 'string', default: 'preview' },
  set: { type: 'string', multiple: true },
  region: { type: 'string' },
  size: { type: 'string' },
  samples: { type: 'string' },
  'max-depth': { type: 'string' },
  threads: { type: 'string' },
  seed: { type: 'string' },
  log: { type: 'string' },
  json: { type: 'boolean', default: false },
} as const;

export async function renderCommand(args: string[]): Promise<void> {
  const started = performance.now();
  const { values, positionals } = parseOptions(args, OPTIONS, RENDER_USAGE);
  if (positionals.length !== 1) throw new BadUse(`Name one shot folder or glTF file.\n${RENDER_USAGE}`);
  if (!values.out) throw new BadUse('Say with --out which EXR file to write.');
  if (!existsSync(dirname(values.out) || '.'))
    throw new BadUse(`There is no folder "${dirname(values.out)}" to write into.`);
  if (values.sheet !== 'preview' && values.sheet !== 'final')
    throw new BadUse(`--sheet is "${values.sheet}"; it must be preview or final.`);
  const [width, height] = numbersOption('size', values.size, 'x', 2, '1280x720') ?? [];
  const threads = wholeOption('threads', values.threads, 1, 64) ?? availableParallelism();
  const seed = wholeOption('seed', values.seed, 0, 4294967295);
  const samples = wholeOption('samples', values.samples, 1, 65536);
  const depth = wholeOption('max-depth', values['max-depth'], 0, 64);

  let frame = 1;
  const log = new RenderLog(values.log ?? null, () => frame);
  log.line('info', 'open', positionals[0]);
  const shot = await openShot(positionals[0], { width, height });
  frame = shot.document.frame;
  for (const warning of shot.warnings) log.line('warning', 'open', warning);
  const changed = setValues(shot.document, values.set ?? []);
  const sheet = changed.sheets[values.sheet];
  if (width !== undefined) Object.assign(sheet, { width, height });
  if (seed !== undefined) sheet.seed = seed;
  // Samples come in fours.
  if (samples !== undefined) sheet.samples = Math.ceil(samples / GROUP) * GROUP;
  if (depth !== undefined)
    sheet.limits = {
      diffuse: depth,
      specular: depth,
      transmission: depth,
      volume: depth,
      alpha: depth,
      overall: depth,
    };
  const document = validateDocument(changed, positionals[0]);
  const region = regionOf(
    document.sheets[values.sheet],
    numbersOption('region', values.region, ',', 4, '100,50,320,180'),
  );
  refuseTooLarge(document, document.sheets[values.sheet], region);
  const assets = await shot.load(document);
  const loaded = performance.now();
  log.line('info', 'compile', `${assets.meshes.size} meshes, ${assets.textures.size} textures`);

  const scene = compileScene(document, assets, document.sheets[values.sheet], lentByHost);
  scene.layout = { ...scene.layout, channelErrors: true };
  const compiled = performance.now();
  for (const warning of scene.warnings) log.line('warning', 'compile', warning);
  log.line('info', 'render', `${region.width} × ${region.height} pixels, ${threads} threads`);
  const show = progress(values.json);
  const tell = (done: number, all: number) => {
    show(done, all);
    if (done === all || done % Math.ceil(all / 20) === 0) log.line('info', 'render', `${done} of ${all} tiles`);
  };
  const settings = settingsOf(document.sheets[values.sheet]);
  const groups = document.sheets[values.sheet].samples / GROUP;
  const { films, rays } = await renderFrame(scene, settings, region, groups, threads, tell);
  const rendered = performance.now();
  const statistics = { samples: meanSamples(films), seed: document.sheets[values.sheet].seed, rays: rays.total, renderSeconds: (rendered - compiled) / 1000 }; // prettier-ignore
  const deflate = (bytes: Uint8Array) => deflateSync(bytes);
  await writeFile(
    values.out,
    filmExr(films, region, scene.layout, { document, sheet: document.sheets[values.sheet], deflate, statistics }),
  );
  const written = performance.now();
  const byKind = Object.fromEntries(Object.entries(rays).filter(([kind]) => kind !== 'total'));
  log.line('info', 'done', `wrote ${values.out}`, byKind);

  const seconds = (from: number, to: number) => Math.round(to - from) / 1000;
  const report: RenderReport = {
    out: values.out,
    width: region.width,
    height: region.height,
    samples: meanSamples(films),
    seconds: {
      load: seconds(started, loaded),
      compile: seconds(loaded, compiled),
      render: seconds(compiled, rendered),
      write: seconds(rendered, written),
      total: seconds(started, written),
    },
    rays,
    peakMemoryBytes: process.resourceUsage().maxRSS * 1024,
    passes: passStatistics(films),
    warnings: [...shot.warnings, ...scene.warnings],
  };
  console.log(values.json ? JSON.stringify(report) : tellReport(report));
}

function regionOf(sheet: Sheet, wanted: number[] | undefined): Region {
  if (!wanted) return { x: 0, y: 0, width: sheet.width, height: sheet.height };
  const [x, y, width, height] = wanted;
  if (!(width > 0 && height > 0 && x + width <= sheet.width && y + height <= sheet.height))
    throw new BadUse(
      `--region ${wanted.join(',')} does not lie in the frame of ${sheet.width} × ${sheet.height} pixels.`,
    );
  return { x, y, width, height };
}

/** Films and the picture made of them stand in memory together. */
function refuseTooLarge(document: ShotDocument, sheet: Sheet, region: Region): void {
  const share = (region.width * region.height) / (sheet.width * sheet.height);
  const needed = frameBytes(document, sheet) * share * 2.5;
  if (needed > freemem())
    throw new BadUse(
      `${region.width} × ${region.height} pixels need about ${prettyBytes(needed)} of memory and ${prettyBytes(freemem())} are free; render it by --region.`,
    );
}

function progress(isQuiet: boolean): (done: number, all: number) => void {
  if (isQuiet || !process.stderr.isTTY) return () => {};
  return (done, all) =>
    process.stderr.write(done < all ? `\r${Math.floor((100 * done) / all)} % of ${all} tiles` : '\r\x1b[K');
}

const pixelsOf = (films: Film[]) => films.reduce((sum, film) => sum + film.counts.length, 0);

const meanSamples = (films: Film[]) =>
  (films.reduce((sum, film) => sum + film.counts.reduce((a, b) => a + b, 0), 0) * GROUP) / pixelsOf(films);

function passStatistics(films: Film[]): RenderReport['passes'] {
  const pixels = pixelsOf(films);
  return Object.fromEntries(
    LIGHT_PASSES.map((name, pass) => {
      const mean = [0, 0, 0];
      const squares = [0, 0, 0];
      for (const film of films)
        for (let i = 0; i < film.counts.length; i++)
          for (let c = 0; c < 3; c++) {
            mean[c] += film.means[i * film.width + pass * 3 + c] / pixels;
            squares[c] += channelError(film, i, pass, c) ** 2 / pixels;
          }
      return [name, { mean, standardError: squares.map(Math.sqrt) }];
    }),
  );
}

function tellReport({
  out,
  width,
  height,
  samples,
  seconds,
  rays,
  peakMemoryBytes,
  passes,
  warnings,
}: RenderReport): string {
  const kinds = Object.entries(rays).filter(([kind, n]) => n > 0 && kind !== 'total');
  const lines = [
    `${out}: ${width} × ${height} pixels, ${samples.toFixed(0)} samples each`,
    `time: ${seconds.total} s (load ${seconds.load}, compile ${seconds.compile}, render ${seconds.render}, write ${seconds.write}); memory ${prettyBytes(peakMemoryBytes)}`,
    `rays: ${rays.total} (${kinds.map(([kind, n]) => `${kind} ${n}`).join(', ')})`,
    'pass                    mean luminance   standard error',
  ];
  const luminance = ([r, g, b]: number[]) => 0.2126 * r + 0.7152 * g + 0.0722 * b;
  for (const [name, { mean, standardError }] of Object.entries(passes))
    if (mean.some((m) => m !== 0))
      lines.push(
        `${name.padEnd(24)}${luminance(mean).toPrecision(4).padStart(14)}${luminance(standardError).toPrecision(3).padStart(17)}`,
      );
  return [...lines, ...warnings.map((w) => `warning: ${w}`)].join('\n');
}
