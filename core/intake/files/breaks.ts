/**
 * What each file's absence looks like in the picture: objects gone, plain, shaded wrongly, untextured, or unlit.
 *
 * @example
 * breaksOf(new Owners(source, null), source.references[0]);   // [{ look: 'gone', objects: ['/yard/crate'] }]
 */
import type { FileBreak } from '../../contracts/intake.ts';
import type { SourceReference } from '../../formats/source-scene.ts';
import type { Owners } from './owners.ts';

export function breaksOf(owners: Owners, reference: SourceReference): FileBreak[] {
  const { objects, materials, parts, worn, lights } = owners.of(reference);
  const looks: [FileBreak['look'], string[]][] = [
    ['gone', objects],
    ['plain', owners.wearers(materials)],
    ['shaded wrongly', owners.wearers([...parts, ...worn.other])],
    ['untextured', owners.wearers(worn.seen)],
    ['unlit', lights ? ['environment'] : []],
  ];
  return looks.filter(([, of]) => of.length).map(([look, of]) => ({ look, objects: of }));
}
