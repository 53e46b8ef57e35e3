/** One normal a point: in new meshes, or, where subdivision makes the normals, by creases that are less than endlessly sharp. */
import { mendMeshes } from '../../../intake/repairs/offer.ts';
import type { Proposal, Propose } from '../../family.ts';
import { listed } from '../../words.ts';
import type { SeamCase } from '../case.ts';

const LEAST = 0.05;

export const joinNormals: Propose<SeamCase> = (of) => {
  if ((of.shares.get('seams.split-normals') ?? 0) < LEAST) return null;
  const { document, assets } = of.input.state;
  const plain = of.input.ids.filter((id) => document.objects[id].subdivision.level === 0);
  const fine = of.input.ids.filter((id) => !plain.includes(id));
  const meshes = [...new Set(plain.map((id) => document.objects[id].mesh!))];
  const nameOf = (id: string) => document.objects[id].name || id;
  const repair = mendMeshes(`Join the normals of ${listed(plain.map(nameOf))}`, document, 'join normals', meshes);
  const joined = new Map(assets.meshes);
  for (const id of meshes) joined.set(id, { ...assets.meshes.get(id)!, normals: null });
  const proposals: Proposal[] = [];
  if (repair)
    proposals.push({
      id: 'join-normals',
      title: repair.label,
      change: { kind: 'files', patch: repair.patch, work: repair.work },
      files: { ...assets, meshes: joined },
      note: 'In a new file. Hard edges become smooth, as far as the displaced surface is.',
    });
  if (fine.length)
    proposals.push({
      id: 'soften-creases',
      title: `Lower the creases of ${listed(fine.map(nameOf))} below 10 where they carry displacement`,
      change: null,
      note: 'A fully sharp crease has two normals, so the surface is displaced in two directions there.',
    });
  return proposals;
};
