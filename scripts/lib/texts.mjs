/**
 * What a person reads of the source: texts of templates and sentences of scripts, each with its place, so that the words of a
 * view can be read in one go, checked, and given to a translator.
 */
import ts from 'typescript';
import { parse } from 'vue/compiler-sfc';

/** Catalogues by view: which folders and files each is gathered from. A file is in the first whose place its path begins with. */
export const CATALOGUES = {
  list: ['web/views/ShotList.vue', 'web/components/FirstSteps.vue', 'web/components/storage/', 'web/views/SignIn.vue', 'web/views/NotThere.vue'], // prettier-ignore
  controls: ['web/components/controls/', 'core/document/'],
  findings: ['web/components/findings/', 'core/diagnose/', 'core/tint/', 'core/occlusion/', 'core/seams/', 'core/relief/', 'core/shadow-map/'], // prettier-ignore
  trials: ['web/components/trials/', 'core/figures/', 'core/predict/', 'server/trials/', 'server/budget/'],
  intake: ['web/components/intake/', 'web/views/IntakeView.vue', 'core/intake/', 'server/intake/'],
  look: ['web/components/look/', 'web/views/LookView.vue', 'core/picture/', 'server/look/'],
  stage: ['web/components/stage/', 'web/components/place/', 'web/components/history/', 'core/place/', 'web/stage/'],
  files: ['core/formats/', 'core/textures/', 'host/'],
  frame: ['web/'],
  shell: ['cli/'],
  server: ['server/', 'core/'],
};

/** @param {string} path of a source file, from the root of the project @returns {string | null} the catalogue it belongs to */
export const catalogueOf = (path) =>
  Object.entries(CATALOGUES).find(([, places]) => places.some((place) => path.startsWith(place)))?.[0] ?? null;

/** Attributes whose values are read, by eye or aloud. */
const READ_ALOUD = /^(aria-label|aria-description|alt|label|title|header|placeholder|summary|tip|help|unit|empty)$/;

/**
 * @param {string} path tells a component from a script by its ending
 * @param {string} source
 * @returns {{ line: number; text: string }[]} in their order; what is computed stands in braces: "Of {n} pixels"
 */
export function textsOf(path, source) {
  if (!path.endsWith('.vue')) return sentencesOf(source, 1);
  const { descriptor } = parse(source, { filename: path });
  const { template, scriptSetup, script } = descriptor;
  const code = scriptSetup ?? script;
  return [
    ...(code ? sentencesOf(code.content, code.loc.start.line) : []),
    ...(template?.ast ? textsOfNode(template.ast) : []),
  ];
}

const ELEMENT = 1;
const TEXT = 2;
const INTERPOLATION = 5;
const ATTRIBUTE = 6;
const DIRECTIVE = 7;

function textsOfNode(node) {
  const out = [];
  let run = null;
  const end = () => {
    if (run && /\p{L}/u.test(run.text.replace(/\{[^}]*\}/g, ''))) out.push({ ...run, text: run.text.replace(/\s+/g, ' ').trim() });
    run = null;
  };
  for (const prop of node.props ?? []) {
    const { line } = prop.loc.start;
    if (prop.type === ATTRIBUTE && READ_ALOUD.test(prop.name) && prop.value) out.push({ line, text: prop.value.content });
    if (prop.type === DIRECTIVE && prop.exp) out.push(...sentencesOf(prop.exp.content, line));
  }
  for (const child of node.children ?? []) {
    const { line } = child.loc.start;
    if (child.type === TEXT) run = { line: run?.line ?? line, text: (run?.text ?? '') + child.content };
    else if (child.type === INTERPOLATION) {
      run = { line: run?.line ?? line, text: `${run?.text ?? ''}{${nameOf(child.content.content)}}` };
      out.push(...sentencesOf(child.content.content, line));
    } else if (child.type === ELEMENT) {
      end();
      out.push(...textsOfNode(child));
    }
  }
  end();
  return out;
} // prettier-ignore

/** Strings of a script that are read: those of more than one word, or of one that begins with a capital. */
function sentencesOf(source, firstLine) {
  const file = ts.createSourceFile('script.ts', source, ts.ScriptTarget.Latest, true);
  const out = [];
  const add = (node, text) => {
    const line = firstLine + file.getLineAndCharacterOfPosition(node.getStart(file)).line;
    if (isRead(text)) out.push({ line, text: text.replace(/\s+/g, ' ').trim() });
  };
  const visit = (node) => {
    if (ts.isImportDeclaration(node) || ts.isExportDeclaration(node) || ts.isLiteralTypeNode(node)) return;
    if (ts.isStringLiteralLike(node)) add(node, node.text);
    if (ts.isTemplateExpression(node))
      add(node, node.head.text + node.templateSpans.map(({ expression, literal }) => `{${nameOf(expression.getText(file))}}${literal.text}`).join('')); // prettier-ignore
    ts.forEachChild(node, visit);
  };
  visit(file);
  return out;
}

/** Two words with a space between them, or one with a capital: neither an id, a path, a class nor a key. */
const isRead = (text) => {
  const fixed = text.replace(/\{[^}]*\}/g, '');
  return /\p{L}{2,}[,.;:]?\s+\S*\p{L}|\s\p{L}{2,}|^\p{Lu}\p{Ll}+$/u.test(fixed) && !/^[\w-]+(\s[\w-]+:[\w-]+)+$/.test(text);
}; // prettier-ignore

/** "left.length" → "left.length"; what is longer by its first name. */
const nameOf = (expression) => {
  const plain = expression.replace(/\s+/g, ' ').trim();
  return plain.length <= 32 && !/[`{}]/.test(plain) ? plain : (/[\w.]+/.exec(plain)?.[0] ?? '…');
};
