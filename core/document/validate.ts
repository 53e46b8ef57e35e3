import { ShotDocumentSchema, type ShotDocument } from './schema.ts';
import { InvalidInput, showValue, type Problem } from './problem.ts';
import { checkSchema } from './schema-check.ts';
import { invert } from '../data/transform.ts';

/**
 * Checks a parsed document: first its shape, then that what it refers to is there.
 * @returns the same value, typed
 * @throws InvalidInput naming the path, the value and what was expected
 */
export function validateDocument(value: unknown, what = 'shot document'): ShotDocument {
  checkFinite(value, what);
  checkSchema(ShotDocumentSchema, value, what);
  const document = value as ShotDocument;
  const problems: Problem[] = [];
  const refer = (path: string, id: string | null, map: Record<string, unknown>, kind: string) => {
    if (id !== null && !Object.hasOwn(map, id))
      problems.push({ path, value: showValue(id), expected: `the id of a ${kind} in this document` });
  };
  const place = (path: string, transform: number[]) => {
    try {
      invert(transform);
    } catch {
      problems.push({
        path,
        value: showValue(transform),
        expected: 'a transform that does not flatten space',
      });
    }
    if (transform[3] !== 0 || transform[7] !== 0 || transform[11] !== 0 || transform[15] !== 1)
      problems.push({ path, value: showValue(transform), expected: 'a last row of 0, 0, 0, 1' });
  };
  refer('/camera', document.camera, document.cameras, 'camera');
  for (const [id, camera] of Object.entries(document.cameras)) place(`/cameras/${id}/transform`, camera.transform);
  for (const [id, light] of Object.entries(document.lights)) place(`/lights/${id}/transform`, light.transform);
  for (const [id, material] of Object.entries(document.materials))
    refer(`/materials/${id}/baseColourTexture`, material.baseColourTexture, document.textures, 'texture');
  for (const [id, object] of Object.entries(document.objects)) {
    refer(`/objects/${id}/mesh`, object.mesh, document.meshes, 'mesh');
    refer(`/objects/${id}/material`, object.material, document.materials, 'material');
    place(`/objects/${id}/transform`, object.transform);
  }
  if (problems.length) throw new InvalidInput(what, problems.slice(0, 20));
  return document;
}

/** JSON cannot hold NaN or infinities, but a document built in memory can; Ajv lets NaN pass a range. */
function checkFinite(value: unknown, what: string, path = ''): void {
  if (typeof value === 'number' && !Number.isFinite(value))
    throw new InvalidInput(what, [{ path, value: String(value), expected: 'a finite number' }]);
  if (value && typeof value === 'object')
    for (const [key, child] of Object.entries(value)) checkFinite(child, what, `${path}/${key}`);
}

/** Parses and checks a document's text. Text that is not JSON is refused with the place of the first fault. */
export function parseDocument(text: string, what = 'shot document'): ShotDocument {
  let value: unknown;
  try {
    value = JSON.parse(text);
  } catch (error) {
    throw new InvalidInput(what, [
      { path: '', value: showValue(text.slice(0, 40)), expected: `JSON text (${(error as Error).message})` },
    ]);
  }
  return validateDocument(value, what);
}
