/** Several things set at once: moved as one about their middle, and the controls that all of them have. */
import { expect } from 'chai';
import { placementOf } from '../../core/data/placement.ts';
import { middleOf, movedTogether, NOT_MOVED } from '../../core/data/together.ts';
import { multiply, rotationX, translation, type Transform } from '../../core/data/transform.ts';
import { defaultLight } from '../../core/document/defaults.ts';
import { canonicalText } from '../../core/document/canonical.ts';
import { completeDocument } from '../../core/document/complete.ts';
import { controlsOf, itemsOf, type Item } from '../../core/document/controls.ts';
import { newGroup } from '../../core/document/new-items.ts';
import { applyPatch } from '../../core/document/patch.ts';
import { InvalidInput } from '../../core/document/problem.ts';
import type { ShotDocument } from '../../core/document/schema.ts';
import { removalPatch, usersOf } from '../../core/document/remove-items.ts';
import { sharedControls, spreadOf } from '../../core/document/several.ts';
import { valuesPatch, withValues } from '../../core/document/set-values.ts';
import { tellChange } from '../../core/document/tell-change.ts';
import { validateDocument } from '../../core/document/validate.ts';
import { leaveOut } from '../../core/intake/repairs/offer.ts';
import { sceneKey } from '../../core/render/scene/scene-key.ts';
import { box } from '../../demo/shapes.ts';
import { scene } from './helpers.ts';

const near = (a: Transform, b: Transform) => a.forEach((c, i) => expect(c).to.be.closeTo(b[i], 1e-12));

describe('several things moved as one', () => {
  const left = multiply(translation(-1, 0, 0), rotationX(33.3));
  const right = multiply(translation(3, 2, 0.1), rotationX(-7.7));

  it('keeps the bits of what nothing is asked of, and of axes that are only moved', () => {
    expect(movedTogether([left, right], NOT_MOVED)).to.deep.equal([left, right]);
    const [moved] = movedTogether([left, right], { ...NOT_MOVED, offset: [0, 2, 0] });
    expect(moved.slice(0, 12)).to.deep.equal(left.slice(0, 12));
    expect(moved.slice(12)).to.deep.equal([-1, 2, 0, 1]);
  });

  it('turns them about their middle: by hand a quarter turn about the vertical, X to −Z', () => {
    expect(middleOf([left, right])).to.deep.equal([1, 1, 0.05]);
    const turned = movedTogether([translation(0, 0, 0), translation(2, 0, 0)], { ...NOT_MOVED, rotation: [0, 90, 0] });
    near(turned[0].slice(12, 15), [1, 0, 1]);
    near(turned[1].slice(12, 15), [1, 0, -1]);
    expect(placementOf(turned[0]).rotation).to.deep.equal([0, 90, 0]);
  });

  it('scales sizes and distances alike, turns back to where it was, and takes no factor of 0', () => {
    const larger = movedTogether([translation(0, 0, 0), translation(2, 0, 0)], { ...NOT_MOVED, factor: 2 });
    near(larger[1].slice(12, 15), [3, 0, 0]);
    expect(placementOf(larger[1]).scale).to.deep.equal([2, 2, 2]);
    const there = movedTogether([left, right], { ...NOT_MOVED, rotation: [0, 40, 0], factor: 2 });
    const back = movedTogether(there, { ...NOT_MOVED, rotation: [0, -40, 0], factor: 0.5 });
    [left, right].forEach((was, i) => near(back[i], was));
    expect(() => movedTogether([left], { ...NOT_MOVED, factor: 0 })).to.throw(RangeError, 'above 0');
  });
});

describe('controls that several things share', () => {
  const { document } = scene([{ mesh: box([-1, -1, -1], [1, 1, 1]) }, { mesh: box([-1, -1, -1], [1, 1, 1]) }], {
    lights: { lamp: { ...defaultLight('point'), samples: 4 }, panel: defaultLight('rectangle'), sun: defaultLight('distant') },
  }); // prettier-ignore
  const items = (...pointers: string[]): Item[] => itemsOf(document).filter(({ pointer }) => pointers.includes(pointer)); // prettier-ignore
  const labels = (...pointers: string[]) => sharedControls(document, items(...pointers)).map(({ control }) => control.label); // prettier-ignore

  it('are those of every kind among them: what one lacks is left out, and so are names and places', () => {
    expect(labels('/lights/lamp', '/lights/panel')).to.include.members(['Samples', 'Colour', 'Casts shadows']);
    expect(labels('/lights/lamp', '/lights/panel')).to.not.include.members(['Radius']);
    expect(labels('/lights/lamp')).to.include('Radius');
    for (const label of ['Name', 'Position', 'Rotation', 'Elevation'])
      expect(labels('/lights/lamp', '/lights/panel', '/lights/sun')).to.not.include(label);
    const objects = Object.keys(document.objects).map((id) => `/objects/${id}`);
    expect(labels(...objects)).to.include.members(['Material', 'Hidden', 'Subdivision levels']);
    expect(labels(...objects, '/lights/sun'), 'of unlike things what both have').to.include('Hidden');
  });

  it('point at each item, so that one value is set in all', () => {
    const samples = sharedControls(document, items('/lights/lamp', '/lights/sun')).find(({ control }) => control.label === 'Samples')!; // prettier-ignore
    expect(samples.each.map(({ value }) => value)).to.deep.equal([4, 1]);
    const values = Object.fromEntries(samples.each.map(({ pointer }) => [pointer, 8]));
    const { lights } = withValues(document, ['preview'], values);
    expect([lights.lamp.samples, lights.sun.samples, lights.panel.samples]).to.deep.equal([8, 8, 1]);
  });

  it('say how far apart they stand', () => {
    expect(spreadOf([4, 1, 2])).to.equal('1 to 4');
    expect(spreadOf([0.1, 1 / 3])).to.equal('0.1 to 0.3333');
    expect(spreadOf(['a', 'b', 'a', null])).to.equal('3 different ones');
    expect(spreadOf([[1, 0, 0], [1, 0, 0]])).to.equal(null); // prettier-ignore
  });
});

describe('a group of objects', () => {
  const { document } = scene([{ mesh: box([0, 0, 0], [1, 1, 1]) }, { mesh: box([2, 0, 0], [3, 1, 1]) }]);
  const ids = Object.keys(document.objects);
  const { pointer, item } = newGroup(document, ids);
  const grouped = withValues(document, ['preview'], { [pointer]: item });

  it('is an item like others: named, listed, told in the history, and gone by undo to the same bytes', () => {
    expect(item).to.deep.equal({ name: 'group', objects: ids });
    expect(newGroup(grouped, []).pointer).to.equal('/groups/group-2');
    const listed = itemsOf(grouped).find((one) => one.group === 'Groups')!;
    expect(controlsOf(grouped, listed).map(({ label, kind }) => [label, kind])).to.deep.equal([['Name', 'name'], ['Objects', 'list']]); // prettier-ignore
    const patch = valuesPatch(document, ['preview'], { [pointer]: item });
    expect(tellChange(document, grouped, patch)).to.deep.equal(['group: new group']);
    const without = applyPatch(grouped, removalPatch(grouped, [pointer]));
    expect(canonicalText(without)).to.equal(canonicalText(document));
    const older: Partial<ShotDocument> = structuredClone(document);
    delete older.groups;
    expect(completeDocument(older), 'of before there were any').to.have.deep.property('groups', {});
  });

  it('loses what is deleted, and names nothing that is not there', () => {
    expect(usersOf(grouped, `/objects/${ids[0]}`).map(({ told }) => told)).to.deep.equal(['group group no longer has it']); // prettier-ignore
    const left = validateDocument(applyPatch(grouped, removalPatch(grouped, [`/objects/${ids[0]}`])));
    expect(left.groups.group.objects).to.deep.equal([ids[1]]);
    const { patch } = leaveOut('out', grouped, [ids[1]])!;
    expect(validateDocument(applyPatch(grouped, patch)).groups.group.objects).to.deep.equal([ids[0]]);
    expect(() => withValues(grouped, ['preview'], { '/groups/group/objects': ['nobody'] })).to.throw(InvalidInput, /\/groups\/group\/objects\/0 .*id of an object/); // prettier-ignore
  });

  it('is no part of a scene: nothing is compiled anew for it', () => {
    const sheet = document.sheets.preview;
    expect(sceneKey(grouped, sheet)).to.equal(sceneKey(document, sheet));
  });
});
