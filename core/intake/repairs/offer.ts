/** How checks offer repairs; null where nothing would change. */
import type { MeshMend, PreflightOffender, PreflightRepair, RepairWork } from '../../contracts/intake.ts';
import { replaceValues, type JsonPatch } from '../../document/patch.ts';
import type { ShotDocument } from '../../document/schema.ts';

/** @param values by place in the document */
export function setValues(
  label: string,
  document: ShotDocument | null,
  values: Record<string, unknown>,
): PreflightRepair | null {
  return document && patched(label, replaceValues(document, values));
}

/** @param meshes ids in the document; nothing is offered for scenes that are no shot of ours */
export function mendMeshes(
  label: string,
  document: ShotDocument | null,
  how: MeshMend,
  meshes: string[],
): PreflightRepair | null {
  return document && meshes.length ? byWork(label, { kind: 'mend meshes', how, meshes }) : null;
}

export const byWork = (label: string, work: RepairWork): PreflightRepair => ({ label, patch: [], work });

/** Objects taken out of the document, and out of every link and group that names them. What a mesh light is made of stays. */
export function leaveOut(label: string, document: ShotDocument | null, ids: string[]): PreflightRepair | null {
  if (!document) return null;
  const emitting = Object.values(document.lights).flatMap((light) => (light.kind === 'mesh' ? [light.object] : []));
  const gone = ids.filter((id) => Object.hasOwn(document.objects, id) && !emitting.includes(id));
  const links: Record<string, unknown> = {};
  const emitters = [
    ...Object.entries(document.lights).map(([id, light]) => [`/lights/${id}`, light] as const),
    ['/environment', document.environment] as const,
  ];
  for (const [at, emitter] of emitters)
    for (const key of ['lights', 'shadowsOf'] as const) {
      const { objects } = emitter[key];
      if (objects.some((id) => gone.includes(id)))
        links[`${at}/${key}/objects`] = objects.filter((id) => !gone.includes(id));
    }
  for (const [id, { objects }] of Object.entries(document.groups))
    if (objects.some((one) => gone.includes(one)))
      links[`/groups/${id}/objects`] = objects.filter((one) => !gone.includes(one));
  const removals: JsonPatch = gone.flatMap((id) => [
    { op: 'test', path: `/objects/${id}`, value: document.objects[id] },
    { op: 'remove', path: `/objects/${id}` },
  ]);
  return patched(label, [...replaceValues(document, links), ...removals]);
}

const patched = (label: string, patch: JsonPatch): PreflightRepair | null =>
  patch.length ? { label, patch, work: null } : null;

/** @param offenders objects by their paths; what deforms has a mesh for each key and keeps its own */
export function centrePivots(
  label: string,
  document: ShotDocument | null,
  offenders: PreflightOffender[],
): PreflightRepair | null {
  if (!document) return null;
  const objects = idsOf(offenders).filter((id) => {
    const object = document.objects[id];
    return object?.mesh && object.keys.every(({ mesh }) => mesh === null || mesh === object.mesh);
  });
  return objects.length ? byWork(label, { kind: 'centre pivots', objects }) : null;
}

/** @param offenders objects by their paths; what moves by keys of its own keeps its transform */
export function carryTransforms(
  label: string,
  document: ShotDocument | null,
  offenders: PreflightOffender[],
): PreflightRepair | null {
  if (!document) return null;
  const objects = idsOf(offenders).filter((id) => {
    const object = document.objects[id];
    return object?.mesh && object.keys.length === 0;
  });
  return objects.length ? byWork(label, { kind: 'carry transforms', objects }) : null;
}

/** Ids of the objects that paths of a shot's objects name. */
export const idsOf = (offenders: PreflightOffender[]): string[] => offenders.map(({ object }) => object.slice(1));
