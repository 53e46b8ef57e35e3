/**
 * What complaints of renderers mean, whoever wrote them, and whether they matter. What can be checked is checked:
 * a complaint about a file is held against the files that are there.
 */

/** What is known besides the log. */
export interface LogEvidence {
  /** Null: nothing is known of the place. `prepared`: the file is missing, and a copy made ready for rendering is there. */
  fileState?: (path: string) => 'there' | 'prepared' | 'missing' | null;
}

export interface Verdict {
  harmless: 'yes' | 'no' | 'unknown';
  why: string;
}

export interface Meaning {
  id: string;
  /** What a message of this kind looks like. */
  looksLike: RegExp;
  meaning: string;
  judge(message: string, count: number, evidence: LogEvidence): Verdict;
}

const always = (harmless: Verdict['harmless'], why: string) => (): Verdict => ({ harmless, why });

/** A path in a message: quoted, or with a slash and an extension. */
export function pathIn(message: string): string | null {
  const quoted = /["'“<]([^"'”>]*[./\\][^"'”>]*)["'”>]/.exec(message)?.[1];
  return (
    quoted ??
    /(?:^|[\s=:])([\w.$%{}~-]*[/\\][^\s"']+|[\w.$%{}-]+\.(?:png|jpe?g|exr|hdr|tiff?|pfm|usd[ac]?|obj|gl[bt]f?|abc|vdb))\b/i.exec(
      message,
    )?.[1] ??
    null
  );
}

/** `$NAME`, `${NAME}`, `%NAME%`, `<UDIM>`, `{name}`. */
const VARIABLE = /\$\{?\w|%\w+%|<\w+>|\{\w+\}/;

export const MEANINGS: Meaning[] = [
  {
    id: 'out-of-memory',
    looksLike: /out of memory|cannot allocate|allocation (of .* )?failed|bad_alloc|memory (limit|exhausted)/i,
    meaning: 'The machine ran out of memory.',
    judge: always('no', 'the frame ends here, or is swapped to disk and takes many times as long'),
  },
  {
    id: 'killed',
    looksLike: /\b(killed|segmentation fault|sig(segv|kill|term|abrt)|access violation|core dumped|aborted)\b/i,
    meaning: 'The process was killed, or crashed.',
    judge: always('no', 'the picture is not finished'),
  },
  {
    id: 'disk-full',
    looksLike: /no space left|disk (is )?full|quota exceeded/i,
    meaning: 'The disk was full.',
    judge: always('no', 'pictures or temporary files are cut off'),
  },
  {
    id: 'texture-not-converted',
    looksLike:
      /(convert|conversion)\b.*\b(textures?|images?|maps?|tiles?)\b|\b(textures?|images?|maps?)\b.*\b(convert|conversion)/i,
    meaning: 'A texture was not converted to a tiled, mipmapped one there.',
    judge(message, _count, { fileState }) {
      const path = pathIn(message);
      const state = path === null ? null : (fileState?.(path) ?? null);
      if (state === 'prepared')
        return { harmless: 'yes', why: `a copy of "${path}" made ready for rendering is there` };
      if (path !== null && VARIABLE.test(path))
        return { harmless: 'yes', why: `"${path}" holds a variable: it is resolved, and the texture prepared, where the frame is rendered` }; // prettier-ignore
      return {
        harmless: 'unknown',
        why: 'the texture is read as it is, which takes more memory and time, or not at all',
      };
    },
  },
  {
    id: 'file-missing',
    looksLike:
      /(cannot|can't|could not|couldn't|unable to|failed to) (be )?(open|find|read|load|resolve)|(file|texture|image|map)\b.*\b(not found|not there|missing|does not exist)|no such file/i,
    meaning: 'A file the scene refers to was missing or unreadable.',
    judge(message, _count, { fileState }) {
      const path = pathIn(message);
      if (path === null) return { harmless: 'unknown', why: 'it names no file to check' };
      const state = fileState?.(path) ?? null;
      if (state === 'there')
        return { harmless: 'no', why: `"${path}" is there now: it was missing where this was rendered` };
      if (state === 'prepared')
        return { harmless: 'yes', why: `a copy of "${path}" made ready for rendering is there, and is what gets read` };
      if (state === 'missing') return { harmless: 'no', why: `"${path}" is not among the files of the shot` };
      return { harmless: 'unknown', why: `whether "${path}" is there is not known; name the shot with the log` };
    },
  },
  {
    id: 'variable-unresolved',
    looksLike: /(unresolved|undefined|unknown|unset) (environment )?variable|variable .* (not set|undefined)/i,
    meaning: 'A path contains a variable that was not set on that machine.',
    judge: always('no', 'whatever the path leads to is missing there'),
  },
  {
    id: 'not-a-number',
    looksLike: /\b(nan|inf(inity|inite)?|non-?finite|not a number)\b/i,
    meaning: 'A shader or a file returned NaN.',
    judge: (_message, count) =>
      count > 20
        ? { harmless: 'no', why: `${count} times: filtering and denoising spread such pixels` }
        : { harmless: 'unknown', why: 'a few samples are usually dropped; look at the pixels' },
  },
  {
    id: 'degenerate-geometry',
    looksLike: /degenerate|zero[- ]area|zero[- ]length normal|invalid (face|polygon|triangle)/i,
    meaning: 'Zero-area faces or zero-length normals were dropped.',
    judge: always('yes', 'faces without area are not seen; preflight names the mesh if the count is large'),
  },
  {
    id: 'uv-missing',
    looksLike: /(no|missing|without) (uv|texture coordinate|st\b|primvar)/i,
    meaning: 'A textured object has no UVs.',
    judge: always('no', 'its texture is one colour over the whole object'),
  },
  {
    id: 'unsupported',
    looksLike:
      /(unsupported|not supported|unknown|unrecogni[sz]ed) (node|shader|material|attribute|parameter|light|type|extension)/i,
    meaning: 'The renderer does not support something in the scene and skips it.',
    judge: (message) =>
      /attribute|parameter/i.test(message)
        ? { harmless: 'unknown', why: 'an attribute that is not read may be one that nobody needs' }
        : { harmless: 'no', why: 'a shader, light or material that is left out changes the picture' },
  },
  {
    id: 'deprecated',
    looksLike: /deprecated|obsolete|will be removed/i,
    meaning: 'A deprecated setting was used.',
    judge: always('yes', 'it still does what it did'),
  },
  {
    id: 'licence',
    looksLike: /licen[cs]e/i,
    meaning: 'The renderer asked for a licence.',
    judge: (message) =>
      /(no|not|fail|denied|expired|invalid|watermark)/i.test(message)
        ? { harmless: 'no', why: 'without one the frame is not rendered, or is marked' }
        : { harmless: 'yes', why: 'it was given one' },
  },
  {
    id: 'colour-space',
    looksLike: /colou?r ?space|ocio|view transform/i,
    meaning: 'A colour space was unknown or missing.',
    judge: always('no', 'the texture is read with the wrong curve: too bright or too dark'),
  },
  {
    id: 'limit-reached',
    looksLike:
      /(max(imum)?|limit).*(depth|bounces|samples).*(reach|exceed)|(depth|bounces).*(limit|max(imum)?) (reached|exceeded)/i,
    meaning: 'Paths ended at a limit.',
    judge: always('unknown', 'how much light that took away is in the cut passes'),
  },
];

export const meaningOf = (message: string): Meaning | null =>
  MEANINGS.find(({ looksLike }) => looksLike.test(message)) ?? null;
