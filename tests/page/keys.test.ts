/** Keys of the page: what each means, and when it means nothing. */
import { expect } from 'chai';
import { keysOf, MEANINGS, pressKey, type MeaningId } from '../../web/key-table.ts';
import { matching, type Command } from '../../web/stores/commands.ts';

describe('keys', () => {
  const pressed: string[] = [];
  let dialog: object | null = null;
  const realDocument = globalThis.document;
  const table = keysOf(
    Object.fromEntries((Object.keys(MEANINGS) as MeaningId[]).map((id) => [id, () => pressed.push(id)])),
  );

  before(() => {
    globalThis.document = { querySelector: () => dialog } as unknown as Document;
  });
  after(() => {
    globalThis.document = realDocument;
  });
  beforeEach(() => {
    pressed.length = 0;
    dialog = null;
  });

  function press(key: string, more: object = {}, tagName = 'BODY', roles: string[] = []): boolean {
    let prevented = false;
    const event = {
      key,
      ctrlKey: false,
      metaKey: false,
      shiftKey: false,
      altKey: false,
      defaultPrevented: false,
      target: { tagName, isContentEditable: false, closest: (list: string) => (roles.some((role) => list.includes(role)) ? {} : null) }, // prettier-ignore
      preventDefault: () => (prevented = true),
      ...more,
    };
    pressKey(event as unknown as KeyboardEvent, table);
    return prevented;
  }

  it('run what they are listed for, with their modifiers, on either kind of keyboard', () => {
    expect(press('l')).to.equal(true);
    press('P', { shiftKey: true });
    press('z', { ctrlKey: true });
    press('z', { metaKey: true });
    press('Z', { ctrlKey: true, shiftKey: true });
    press('k', { metaKey: true });
    press('Escape');
    expect(pressed).to.deep.equal(['boost', 'passBefore', 'undo', 'undo', 'redo', 'palette', 'leave']);
  });

  it('leave others alone', () => {
    expect(press('9')).to.equal(false);
    expect(press('l', { ctrlKey: true })).to.equal(false);
    expect(press('l', { altKey: true })).to.equal(false);
    expect(press('l', { defaultPrevented: true })).to.equal(false);
    expect(pressed).to.deep.equal([]);
  });

  it('find by name from a text field too', () => {
    expect(press('k', { ctrlKey: true }, 'INPUT')).to.equal(true);
    expect(pressed).to.deep.equal(['palette']);
  });

  it('do nothing while a person types, or a dialog has the page', () => {
    for (const tag of ['INPUT', 'TEXTAREA', 'SELECT']) press('l', {}, tag);
    press('l', { target: { tagName: 'DIV', isContentEditable: true } });
    dialog = {};
    press('Escape');
    expect(pressed).to.deep.equal([]);
  });

  it('leave arrows to lists, and Enter and Space to buttons, which have them already', () => {
    press('ArrowDown', {}, 'LI', ['[role="option"]']);
    press(' ', {}, 'BUTTON', ['button']);
    press('Enter', {}, 'TR', ['tr[tabindex]']);
    expect(pressed).to.deep.equal([]);
    press('ArrowDown', {}, 'BUTTON', ['button']);
    expect(pressed, 'a button has no arrows').to.deep.equal(['nextPass']);
  });

  it('mean one thing each, whatever station they are pressed in', () => {
    const all = Object.values(MEANINGS).flatMap(({ keys }) => keys);
    expect(all.filter((key, i) => all.indexOf(key) !== i)).to.deep.equal([]);
  });
});

describe('the command palette', () => {
  const command = (name: string, group: Command['group'], detail?: string): Command => ({ id: name, name, group, detail, run: () => {} }); // prettier-ignore
  const all = [
    command('Overall limit', 'Controls', 'Limits'),
    command('Limit of rays', 'Controls'),
    command('HA-010 jar shelf', 'Shots'),
    command('Glass is dark inside: 59 % ends at the overall limit', 'Findings', 'blocker'),
  ];
  const found = (text: string) => matching(all, text).map(({ name }) => name);

  it('finds by any words of name, detail and kind, what begins with them first', () => {
    expect(found('limit of')).to.deep.equal(['Limit of rays']);
    expect(found('LIMITS overall')).to.deep.equal(['Overall limit']);
    expect(found('shots jar')).to.deep.equal(['HA-010 jar shelf']);
    expect(found('')).to.have.length(4);
    expect(found('nothing of this')).to.deep.equal([]);
  });

  it('has the kind first whose name comes nearest, whatever else speaks of it', () => {
    expect(found('overall limit')[0]).to.equal('Overall limit');
    expect(found('glass')[0]).to.match(/^Glass/);
    expect(found('blocker')).to.have.length(1);
  });
});
