/** A shot as the server has it: its state, with the document of its head. */
import type { Page } from '@playwright/test';

export async function stateOf(page: Page, code: string) {
  const get = async (path: string) =>
    (await page.request.get(`${process.env.DUSTING_TEST_ADDRESS!}/api${path}`)).json();
  const state = await get(`/shots/${code}`);
  return { ...state, document: await get(`/versions/${state.head.id}/document`) };
}
