/** Parts of a page that wait for its first one: for how long, and in which order. */
import { expect } from 'chai';
import { setTimeout as sleep } from 'node:timers/promises';
import { effectScope, nextTick, ref } from 'vue';
import { useTurns } from '../../web/in-turns.ts';

describe('parts that are drawn in turns', () => {
  const begun = async () => {
    const scope = effectScope();
    const isOpen = ref(true);
    const turns = scope.run(() => useTurns(2, () => isOpen.value))!;
    await nextTick();
    return { scope, isOpen, ...turns };
  };

  it('wait until the first one is up, and then for the browser', async () => {
    const { scope, turn, up } = await begun();
    await sleep(20);
    expect(turn.value).to.equal(0);
    up();
    expect(turn.value, 'not before the browser has shown the first').to.equal(0);
    await sleep(20);
    expect(turn.value).to.equal(2);
    up();
    await sleep(20);
    expect(turn.value, 'there are no more').to.equal(2);
    scope.stop();
  });

  it('do not wait for ever', async () => {
    const { scope, turn } = await begun();
    await sleep(600);
    expect(turn.value).to.equal(2);
    scope.stop();
  });

  it('begin anew with what is opened next, and end with the page', async () => {
    const { scope, isOpen, turn, up } = await begun();
    up();
    await sleep(20);
    isOpen.value = false;
    await nextTick();
    expect(turn.value).to.equal(0);
    isOpen.value = true;
    await nextTick();
    up();
    scope.stop();
    await sleep(20);
    expect(turn.value).to.equal(0);
  });
});
